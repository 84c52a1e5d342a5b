import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { sendJson } from '../api/client';
import { noteSignedIn } from '../state/signed-in';
import { outbox } from '../offline/device';
import { Mark } from './symbols';

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
      await sendJson('POST', '/session', { password });
      noteSignedIn(true);
      void outbox.flush();
      await queries.invalidateQueries();
    } catch (error) {
      setWrong((error as Error).message === 'is wrong' ? 'That is not the password.' : (error as Error).message);
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
      <h1 className="mt-3 text-2xl font-bold">Sign in to the boat</h1>
      <p className="mt-2 text-mute">Once on this device. The password was set where the server runs. What was marked here is safe.</p>
      <label className="mt-4 block font-semibold">
        Password
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
        Sign in
      </button>
    </form>
  );
}
