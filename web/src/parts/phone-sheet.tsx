import { useQuery } from '@tanstack/react-query';
import { LogOut } from 'lucide-react';
import { useState } from 'react';
import { getJson, sendJson } from '../api/client';
import { outbox, useOutbox } from '../offline/device';
import { Dialog } from './dialog';

interface Reachable {
  addresses: string[];
  /** Of the authority of a self-made certificate; null for one from elsewhere. */
  fingerprint: string | null;
  code: string | null;
}

/** Signs this device out and takes off it what it kept for times without a signal. */
function SignOut() {
  const { waiting } = useOutbox();
  const [failed, setFailed] = useState<string | null>(null);
  const signOut = async (): Promise<void> => {
    setFailed(null);
    try {
      await sendJson('DELETE', '/session');
      await outbox.forget();
      if ('caches' in globalThis) for (const name of await caches.keys()) await caches.delete(name);
      for (const worker of (await navigator.serviceWorker?.getRegistrations()) ?? []) await worker.unregister();
      localStorage.clear();
      location.assign('/');
    } catch (error) {
      setFailed((error as Error).message);
    }
  };
  return (
    <section className="mt-4 border-t border-line pt-3" aria-label="Sign out">
      <p className="text-sm text-mute">
        {waiting.length
          ? `${waiting.length} ${waiting.length === 1 ? 'record is' : 'records are'} not on the boat’s server yet. Sign out once ${waiting.length === 1 ? 'it is' : 'they are'} sent.`
          : 'Signing out removes what this device keeps for times without a signal.'}
      </p>
      {failed && (
        <p role="alert" className="mt-1 text-warn">
          {failed}
        </p>
      )}
      <button type="button" className="btn touch-target mt-2" disabled={waiting.length > 0} onClick={() => void signOut()}>
        <LogOut size={18} aria-hidden /> Sign out
      </button>
    </section>
  );
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
            {data.fingerprint && (
              <li>
                Once: open <span className="num">{data.addresses[0]}/authority.crt</span>, say yes to the warning, and let the phone trust
                it as a certificate authority. Without it the phone warns each time and keeps nothing offline. Compare first: its SHA-256
                fingerprint must be{' '}
                <span className="num font-mono text-xs [overflow-wrap:anywhere]" data-testid="fingerprint">
                  {data.fingerprint}
                </span>
              </li>
            )}
            <li>Point its camera at the code, and sign in.</li>
            <li>Put it on the home screen: then it opens without a signal.</li>
          </ol>
          <SignOut />
        </>
      )}
    </Dialog>
  );
}
