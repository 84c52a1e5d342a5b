import { useQuery } from '@tanstack/react-query';
import { LogOut } from 'lucide-react';
import { useState } from 'react';
import { ask } from '../api/client';
import { outbox, useOutbox } from '../offline/device';
import { Dialog } from './dialog';
import { parts as msg } from '../words';
import { told } from './told';

/** Signs this device out and takes off it what it kept for times without a signal. */
function SignOut() {
  const { waiting } = useOutbox();
  const [failed, setFailed] = useState<string | null>(null);
  const signOut = async (): Promise<void> => {
    setFailed(null);
    try {
      await ask('DELETE /session', {});
      await outbox.forget();
      if ('caches' in globalThis) for (const name of await caches.keys()) await caches.delete(name);
      for (const worker of (await navigator.serviceWorker?.getRegistrations()) ?? []) await worker.unregister();
      localStorage.clear();
      location.assign('/');
    } catch (error) {
      setFailed(told(error));
    }
  };
  return (
    <section className="mt-4 border-t border-line pt-3" aria-label={msg('phoneSheet.signOut')}>
      <p className="text-sm text-mute">
        {waiting.length ? msg('phoneSheet.recordIsNotOn', { waiting: waiting.length }) : msg('phoneSheet.signingOutRemovesWhat')}
      </p>
      {failed && (
        <p role="alert" className="mt-1 text-warn">
          {failed}
        </p>
      )}
      <button type="button" className="btn touch-target mt-2" disabled={waiting.length > 0} onClick={() => void signOut()}>
        <LogOut size={18} aria-hidden /> {msg('phoneSheet.signOut')}
      </button>
    </section>
  );
}

/** How a phone on the boat's network comes in: a code for its camera, the address in words, and what to do once. */
export function PhoneSheet({ onClose }: { onClose: () => void }) {
  const { data, error } = useQuery({ queryKey: ['reach'], queryFn: () => ask('GET /reach', {}) });
  return (
    <Dialog title={msg('phoneSheet.onAPhone')} onClose={onClose}>
      {!data ? (
        <p className={error ? 'text-warn' : 'text-mute'}>{error ? error.message : msg('phoneSheet.askingTheServer')}</p>
      ) : data.code === null ? (
        <>
          <p>{msg('phoneSheet.theServerSpeaksTo')}</p>
          <pre className="mt-3 overflow-x-auto rounded-box border border-line bg-ground p-3 font-mono text-sm">
            ./shoal certificate{'\n'}./shoal serve --listen 0.0.0.0
          </pre>
          <p className="mt-3 text-sm text-mute">{msg('phoneSheet.itThenShowsThe')}</p>
        </>
      ) : (
        <>
          <img
            src={`data:image/svg+xml;utf8,${encodeURIComponent(data.code)}`}
            alt={msg('phoneSheet.codeOf', { addresses: data.addresses[0] })}
            className="mx-auto w-56 bg-white"
          />
          <ul className="num mt-2 text-center text-lg font-semibold">
            {data.addresses.map((address) => (
              <li key={address}>{address}</li>
            ))}
          </ul>
          <ol className="mt-3 list-decimal space-y-1 pl-5">
            <li>{msg('phoneSheet.bringThePhoneOn')}</li>
            {data.fingerprint && (
              <li>
                {msg('phoneSheet.onceOpen')} <span className="num">{data.addresses[0]}/authority.crt</span>
                {msg('phoneSheet.sayYesToThe')}{' '}
                <span className="num font-mono text-xs [overflow-wrap:anywhere]" data-testid="fingerprint">
                  {data.fingerprint}
                </span>
              </li>
            )}
            <li>{msg('phoneSheet.pointItsCameraAt')}</li>
            <li>{msg('phoneSheet.putItOnThe')}</li>
          </ol>
          <SignOut />
        </>
      )}
    </Dialog>
  );
}
