import type { LatLon } from '@restless-shoal/core/geo';

/** Where this device is, asked once. @throws Error in words, when it does not say */
export const whereIsThisDevice = (): Promise<LatLon> =>
  new Promise((done, failed) => {
    if (!('geolocation' in navigator)) return failed(new Error('This device tells no position: type one in.'));
    navigator.geolocation.getCurrentPosition(
      ({ coords }) => done({ latitude: coords.latitude, longitude: coords.longitude }),
      (error) =>
        failed(
          new Error(
            error.code === 1
              ? 'This device may not tell its position: allow it in the browser, or type one in.'
              : 'This device has no position yet: try again, or type one in.',
          ),
        ),
      { enableHighAccuracy: true, timeout: 15_000, maximumAge: 60_000 },
    );
  });
