import { useQuery } from '@tanstack/react-query';
import { getJson } from '../api/client';
import { Dialog } from './dialog';

interface Reachable {
  addresses: string[];
  selfMade: boolean;
  code: string | null;
}

/** How a phone on the boat's network comes in: a code for its camera, the address in words, and what to do once. */
export function PhoneSheet({ onClose }: { onClose: () => void }) {
  const { data, error } = useQuery({ queryKey: ['reach'], queryFn: () => getJson<Reachable>('/reach') });
  return (
    <Dialog title="On a phone" onClose={onClose}>
      {!data ? (
        <p className={error ? 'text-warn' : 'text-mute'}>{error ? error.message : 'Asking the server …'}</p>
      ) : data.code === null ? (
        <>
          <p>The server speaks to this machine only. To let a phone on the same network in, stop it and start it so:</p>
          <pre className="mt-3 overflow-x-auto rounded-box border border-line bg-ground p-3 font-mono text-sm">
            ./shoal certificate{'\n'}./shoal serve --listen 0.0.0.0
          </pre>
          <p className="mt-3 text-sm text-mute">It then shows the address, and asks each phone for the password once.</p>
        </>
      ) : (
        <>
          <img
            src={`data:image/svg+xml;utf8,${encodeURIComponent(data.code)}`}
            alt={`Code of ${data.addresses[0]}`}
            className="mx-auto w-56 bg-white"
          />
          <ul className="num mt-2 text-center text-lg font-semibold">
            {data.addresses.map((address) => (
              <li key={address}>{address}</li>
            ))}
          </ul>
          <ol className="mt-3 list-decimal space-y-1 pl-5">
            <li>Bring the phone on to the boat’s network.</li>
            {data.selfMade && (
              <li>
                Once: open <span className="num">{data.addresses[0]}/authority.crt</span>, say yes to the warning, and let the phone trust
                it as a certificate authority. Without it the phone warns each time and keeps nothing offline.
              </li>
            )}
            <li>Point its camera at the code, and sign in.</li>
            <li>Put it on the home screen: then it opens without a signal.</li>
          </ol>
        </>
      )}
    </Dialog>
  );
}
