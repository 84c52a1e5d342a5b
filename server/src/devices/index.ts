/** Small stand-ins for what is on a boat. */
export { sentencesOf, SimulatedBoat, straightOn, type Voyage } from './simulated-boat';
export { SimulatedSonar, type Companion } from './simulated-sonar';
export { waterScene, type WaterScene } from './water-scene';
