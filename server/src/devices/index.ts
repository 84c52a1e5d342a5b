/** Small stand-ins for what is on a boat. */
export { sentencesOf, SimulatedBoat, straightOn, type Voyage } from './simulated-boat';
