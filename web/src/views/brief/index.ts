export { Brief } from './brief';
