import type { LatLon } from '@restless-shoal/core/geo';
import { app as msg } from '../words';

/** Where this device is, asked once. @throws Error in words, when it does not say */
export const whereIsThisDevice = (): Promise<LatLon> =>
  new Promise((done, failed) => {
    if (!('geolocation' in navigator)) return failed(new Error(msg('whereIsThisDevice.thisDeviceTellsNo')));
    navigator.geolocation.getCurrentPosition(
      ({ coords }) => done({ latitude: coords.latitude, longitude: coords.longitude }),
      (error) => failed(new Error(error.code === 1 ? msg('whereIsThisDevice.thisDeviceMayNot') : msg('whereIsThisDevice.thisDeviceHasNo'))),
      { enableHighAccuracy: true, timeout: 15_000, maximumAge: 60_000 },
    );
  });
