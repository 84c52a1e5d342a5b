import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../api/client';
import { noteSignedIn } from '../state/signed-in';
import { outbox } from '../offline/device';
import { Mark } from './symbols';
import { parts as msg } from '../words';
import { told } from './told';

/** The password of the boat, asked once a device. What waits on the device goes out after it. */
export function SignIn() {
  const queries = useQueryClient();
  const [password, setPassword] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const send = async (): Promise<void> => {
    setBusy(true);
    setWrong(null);
    try {
      await ask('POST /session', {}, { body: { password } });
      noteSignedIn(true);
      void outbox.flush();
      await queries.invalidateQueries();
    } catch (error) {
      setWrong(told(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <form
      className="m-auto w-[min(24rem,calc(100vw-2rem))] p-6"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <Mark />
      <h1 className="mt-3 text-2xl font-bold">{msg('signIn.signInToThe')}</h1>
      <p className="mt-2 text-mute">{msg('signIn.onceOnThisDevice')}</p>
      <label className="mt-4 block font-semibold">
        {msg('signIn.password')}
        <input
          type="password"
          autoComplete="current-password"
          autoFocus
          className="input mt-1 h-12 w-full text-lg"
          value={password}
          onChange={(e) => setPassword(e.target.value)}
        />
      </label>
      {wrong && (
        <p role="alert" className="mt-2 text-warn">
          {wrong}
        </p>
      )}
      <button type="submit" className="btn btn-primary mt-4 h-12 w-full text-lg" disabled={busy || password === ''}>
        {msg('signIn.signIn')}
      </button>
    </form>
  );
}
