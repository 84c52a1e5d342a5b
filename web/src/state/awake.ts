import { useEffect } from 'react';

/** Keeps the screen on while a trip runs, where the browser can: a dark screen on the water is a mark not made. */
export function useAwake(wanted: boolean): void {
  useEffect(() => {
    if (!wanted || !('wakeLock' in navigator)) return;
    let lock: WakeLockSentinel | null = null;
    let over = false;
    const take = (): void => {
      // Lost whenever the page is hidden; a browser that is low on power refuses.
      if (document.visibilityState !== 'visible') return;
      navigator.wakeLock.request('screen').then(
        (taken) => {
          if (over) void taken.release();
          else lock = taken;
        },
        () => undefined,
      );
    };
    take();
    document.addEventListener('visibilitychange', take);
    return () => {
      over = true;
      document.removeEventListener('visibilitychange', take);
      void lock?.release();
    };
  }, [wanted]);
}
