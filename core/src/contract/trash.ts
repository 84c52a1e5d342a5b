/** Something deleted: enough of it to be recognised. */
export interface TrashItem {
  what: 'water' | 'trip' | 'stop' | 'contact' | 'response' | 'reading' | 'spot' | 'photo' | 'gear';
  id: string;
  /** Null for gear, which belongs to no water. */
  water_id: string | null;
  water: string | null;
  /** The trip that it belongs to; null for a water. */
  trip_id: string | null;
  trip: string | null;
  /** When it was logged. */
  time: string | null;
  deleted_at: string;
  time_zone: string | null;
  /** Kind of mark, response or outcome; the name of a spot. */
  kind: string | null;
  species: string | null;
  count: number | null;
  /** What a trip or a water holds: trips of a water; marks and stops of a trip. */
  trips: number | null;
  marks: number | null;
  stops: number | null;
}
