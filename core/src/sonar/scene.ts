/** One thing in the water that sends back sound. Metres in the plane of the water; depths below the surface. */
export interface SceneTarget {
  id: string;
  kind: 'fish' | 'bait' | 'timber' | 'weed' | 'lure' | 'wash' | 'weight';
  x: number;
  y: number;
  /** Of its middle. */
  depth: number;
  /** Half of its extent, m; 0 for a single fish. */
  radius: number;
  /** Half of its height, m. */
  half: number;
  /** Target strength, dB. */
  strength: number;
}

/** The water under a sonar. */
export interface Scene {
  /** Depth of the bottom, m; not a number on land. */
  depthAt(x: number, y: number): number;
  /** 0 soft – 1 hard. */
  hardnessAt(x: number, y: number): number;
  /** What may be within so many metres of a place. */
  near(x: number, y: number, reach: number): SceneTarget[];
  thermocline: { top: number; bottom: number } | null;
}

/** A sonar's transducer at the moment of a ping. */
export interface Transducer {
  x: number;
  y: number;
  /** Below the surface, m. */
  depth: number;
  /** Where the boat heads, degrees clockwise from grid north. */
  heading: number;
}
