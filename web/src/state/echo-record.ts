import type { Echo, ForwardEcho, SideScanEcho, SounderEcho } from '@restless-shoal/core/formats';
import { bottomOf, EchoWatch } from '@restless-shoal/core/sonar';

export interface SounderPing {
  /** Number of the ping, and when it came, ms. */
  ping: number;
  at: number;
  echo: SounderEcho;
  /** Depth of the bottom, m; null where none is seen. */
  bottom: number | null;
}
export interface SidePing {
  ping: number;
  at: number;
  echo: SideScanEcho;
  /** Depth of the bottom under the boat, as the sounder had it, m. */
  bottom: number | null;
}

/** Pings that are kept: two minutes at fifteen a second. */
const KEEP = 1800;

/** What the sonar has shown lately, and what a plain detector makes of it. Changes in place; who draws it looks again each frame. */
export class EchoRecord {
  readonly sounder: SounderPing[] = [];
  readonly side: SidePing[] = [];
  forward: { at: number; echo: ForwardEcho } | null = null;
  readonly watch = new EchoWatch(4);
  private pings = 0;
  private sides = 0;

  take(echo: Echo, at: number): void {
    switch (echo.view) {
      case 'sounder': {
        const ping = this.pings++;
        this.sounder.push({ ping, at, echo, bottom: bottomOf(echo) });
        this.watch.take(echo, ping);
        if (this.sounder.length > KEEP) this.sounder.splice(0, KEEP / 6);
        return;
      }
      case 'side-scan': {
        this.side.push({ ping: this.sides++, at, echo, bottom: this.sounder.at(-1)?.bottom ?? null });
        if (this.side.length > KEEP) this.side.splice(0, KEEP / 6);
        return;
      }
      case 'forward-facing':
        this.forward = { at, echo };
    }
  }

  pingAt(ping: number): SounderPing | null {
    const first = this.sounder[0]?.ping ?? 0;
    return this.sounder[ping - first] ?? null;
  }

  /** What is in the picture still that may be fish: bodies and clouds clear of the bottom, not what was named. */
  get seen(): { singles: number; masses: number } {
    const from = this.sounder[0]?.ping ?? 0;
    const free = this.watch.traces.filter((t) => t.last >= from && t.clutter === null && t.form !== 'standing');
    const masses = free.filter((t) => t.form === 'mass').length;
    return { singles: free.length - masses, masses };
  }
}
