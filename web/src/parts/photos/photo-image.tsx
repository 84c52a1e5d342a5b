import { ImageOff } from 'lucide-react';
import { useEffect, useState } from 'react';
import { addressOf } from '@restless-shoal/core/contract';
import { useOutbox } from '../../offline/device';
import { parts as msg } from '../../words';
import { addedHere } from './use-photos';

/** Where the server has a picture. */
export const pictureAddress = (trip: string, id: string, small: boolean): string =>
  `/api${addressOf('GET /trips/:trip/photos/:id/picture', { trip, id }, small ? { size: 'small' } : {})[1]}`;

/** The picture of a photo that was added here, or still waits on this device. */
function useLocalPicture(id: string): Blob | null {
  const { waiting } = useOutbox();
  const body = addedHere(id)?.picture ?? waiting.find((e) => e.path.endsWith(`/photos/${id}/picture`))?.body;
  return body instanceof Blob ? body : null;
}

/** A picture: from this device while it waits here, else from the server. */
export function PhotoImage({
  trip,
  id,
  words,
  small = false,
  className,
}: {
  trip: string;
  id: string;
  words: string;
  small?: boolean;
  className: string;
}) {
  const waiting = useLocalPicture(id);
  const [local, setLocal] = useState<string | null>(null);
  const [failed, setFailed] = useState(false);
  useEffect(() => {
    setFailed(false);
    if (!waiting) return;
    const url = URL.createObjectURL(waiting);
    setLocal(url);
    return () => URL.revokeObjectURL(url);
  }, [waiting]);
  if (failed)
    return (
      <span
        className={`grid place-items-center bg-base-200 text-mute ${className}`}
        role="img"
        aria-label={msg('photos.notThere', { words })}
      >
        <ImageOff aria-hidden />
      </span>
    );
  const src = waiting ? local : pictureAddress(trip, id, small);
  return src && <img className={className} src={src} alt={words} loading="lazy" decoding="async" onError={() => setFailed(true)} />;
}
