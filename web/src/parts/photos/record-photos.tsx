import type { LatLon } from '@restless-shoal/core/geo';
import type { TripDetail } from '../../api/queries';
import { useSpots } from '../../state/use-spots';
import type { DayEntry } from '../records/day-entries';
import { PhotoStrip } from './photo-strip';

type Fish = TripDetail['responses'][number];
const sameTime = (a: string | null, b: string): boolean => a !== null && Date.parse(a) === Date.parse(b);

/** The pictures of what a fish did. */
export const photosOfFish = ({ photos }: Pick<TripDetail, 'photos'>, { time }: Pick<Fish, 'time'>): TripDetail['photos'] =>
  photos.filter((p) => sameTime(p.response_time, time));

interface Shared {
  water: string;
  detail: TripDetail;
  zone: string | null;
}

const useSpotNames = (water: string): string[] => (useSpots(water).spots ?? []).map((s) => s.name);

/** The pictures of a fish, and a new one. */
export function FishPhotos({ water, detail, zone, fish, onTime }: Shared & { fish: Fish; onTime: (time: string) => void }) {
  const spots = useSpotNames(water);
  const of = { time: fish.time, shows: 'fish', response_time: fish.time } as const;
  return <PhotoStrip trip={detail.trip.id} photos={photosOfFish(detail, fish)} of={of} zone={zone} spots={spots} uses={{ onTime }} />;
}

/** The pictures of a mark or a stop, and a new one: of the screen, as a rule. One without a key of its own can have none. */
export function EntryPhotos({ water, detail, zone, entry, onPlace }: Shared & { entry: DayEntry; onPlace: (place: LatLon) => void }) {
  const spots = useSpotNames(water);
  const key = entry.kind === 'contact' ? entry.contact.contact : entry.stop.stop;
  if (key === null) return null;
  const [name, shows] = entry.kind === 'contact' ? (['contact', 'screen'] as const) : (['stop', 'spot'] as const);
  const photos = detail.photos.filter((p) => p[name] === key);
  const of = { time: new Date(entry.at).toISOString(), shows, [name]: key };
  return <PhotoStrip trip={detail.trip.id} photos={photos} of={of} zone={zone} spots={spots} uses={{ onPlace }} />;
}

/** All pictures of a trip, and a new one of the day. */
export function TripPhotos({ water, detail, zone }: Shared) {
  const spots = useSpotNames(water);
  const of = { time: detail.trip.end ?? detail.trip.start, shows: 'day' } as const;
  return <PhotoStrip trip={detail.trip.id} photos={detail.photos} of={of} zone={zone} spots={spots} />;
}
