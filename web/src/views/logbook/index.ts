/** Trips: found, read, put right. */
export { Trip } from './trip';
export { TripList } from './trip-list';
