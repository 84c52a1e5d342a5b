import { expose, transfer } from 'comlink';
import { tripSurface, type TripSoundings } from '@restless-shoal/core/chart';

// A thin shell round core: the trip's own chart is made on the device, by the same code as the water's.
const api = {
  chart(epsg: number, soundings: TripSoundings) {
    const made = tripSurface(epsg, soundings);
    if (!made) return null;
    const { x0, y0, size, width, height, data } = made.depth;
    const frame: [number, number, number, number, number] = [x0, y0, size, width, height];
    return transfer({ frame, depth: data, soundings: made.soundings }, [data.buffer]);
  },
};

export type TripChartWorker = typeof api;

expose(api);
