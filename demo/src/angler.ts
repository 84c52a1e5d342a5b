import { coneWidth, DEFAULT_RIG, sideScanDistance } from '@restless-shoal/core/sonar';
import type { Row } from '@restless-shoal/core/logbook';
import type { Point } from '@restless-shoal/core/geo';
import { LAKE_BANDS, SEA_BANDS } from './bands';
import type { Weather } from './climate';
import { coverBy, DayPacks, sideOfCover } from './day-packs';
import { FishWorld, type Pack } from './fish';
import { LURES } from './lures';
import type { Random } from './random';
import type { Boat, Helm, TripRows } from './trip-rows';
import type { World } from './world';

const SECOND = 1000;
const MINUTE = 60 * SECOND;
/** Speed of the boat from one end of a pass to the other where land lies between, m/s. */
const ROUND_LAND = 20;
/** One day of the guide: where the boat goes, what its sonar shows, what gets written down. */
export class Outing {
  readonly rows: TripRows = { trips: [], conditions: [], profiles: [], track: [], stops: [], contacts: [], responses: [] };
  /** The fish of the day as they truly are, and which of them the screen showed. */
  readonly packs: Pack[];
  private readonly day: DayPacks;
  private readonly weather: Weather;
  private readonly boat: Boat;
  readonly seen = new Map<number, string>();
  private stops = 0;
  private marks = 0;

  constructor(
    readonly key: string,
    private readonly start: number,
    private readonly end: number,
    private readonly fish: FishWorld,
    private readonly random: Random,
    /** Places where fish were caught on earlier trips: where this angler likes to go again. */
    private readonly memory: Point[],
    private readonly helm: Helm | null = null,
  ) {
    this.weather = fish.climate.on(start);
    this.day = new DayPacks(fish, start, random);
    this.packs = this.day.all;
    this.boat = { t: start, x: this.world.ramp[0], y: this.world.ramp[1] };
  }

  private get world(): World {
    return this.fish.world;
  }

  private position(x: number, y: number): { latitude: number; longitude: number } {
    const p = this.world.toLatLon(x, y);
    return { latitude: round(p.latitude, 7), longitude: round(p.longitude, 7) };
  }

  private time(t: number): string {
    return new Date(Math.round(t / SECOND) * SECOND).toISOString().replace('.000Z', 'Z');
  }

  run(): TripRows {
    const { random } = this;
    this.readConditions(this.start + 10 * MINUTE);
    if (random.chance(0.65)) this.cast();
    let half = false;
    while (this.boat.t < this.end - 25 * MINUTE) {
      if (!half && this.boat.t > (this.start + this.end) / 2) {
        half = true;
        this.readConditions(this.boat.t);
      }
      const goal = this.helm ? this.helm(this.boat, this.rows) : this.choosePlace();
      if (!goal) break;
      this.drive(goal);
      const found = this.search(goal);
      if (found.length && random.chance(0.8)) this.fishAt(random.pick(found));
      else if (!found.length && random.chance(0.35)) this.nothingHere();
      // Clients, knots, coffee, a talk with another boat.
      this.boat.t += random.even(1, 9) * MINUTE;
    }
    this.rows.trips.push({
      trip: this.key,
      start: this.time(this.start),
      end: this.time(this.boat.t + 5 * MINUTE),
      purpose: random.chance(0.6) ? 'guide' : random.chance(0.5) ? 'practice' : 'scout',
      goal: random.pick(['action', 'size', 'best']),
      crew: 'M. Arrend',
      boat: '4.6 m console',
      notes: null,
    });
    return this.rows;
  }

  private readConditions(t: number): void {
    const w = this.weather;
    const { random } = this;
    this.rows.conditions.push({
      trip: this.key,
      time: this.time(t),
      ...this.position(this.boat.x, this.boat.y),
      surface_temperature_c: round(w.surface + random.normal(0, 0.25) + (t - this.start > 3 * 60 * MINUTE ? 0.4 : 0), 1),
      secchi_m: random.chance(0.85) ? round(Math.max(0.4, w.secchi + random.normal(0, 0.12)), 1) : null,
      wind_from_deg: Math.round((w.windFrom + random.normal(0, 12) + 360) % 360),
      wind_speed_ms: round(Math.max(0, w.windSpeed + random.normal(0, 0.7)), 1),
      cloud_fraction: round(w.cloud, 1),
      air_pressure_hpa: Math.round(w.pressure),
      // The tide is known; a river's level goes with its flow.
      water_level_m: this.fish.tide ? null : round(w.level, 2),
      ...this.currentHere(t),
      signs: random.chance(0.06) ? 'foam lines, insects' : null,
    });
  }

  /** How the water runs where the boat lies: read on a river, and now and then on the sea. */
  private currentHere(t: number): { current_speed_ms: number | null; current_to_deg: number | null } {
    const { boat, fish, world, random } = this;
    const { stream } = fish.running(t, this.weather);
    if (!stream || (fish.tide && !random.chance(0.3))) return { current_speed_ms: null, current_to_deg: null };
    const [e, n] = world.flowAt?.(boat.x, boat.y).along ?? [Math.sin((stream.set * Math.PI) / 180), Math.cos((stream.set * Math.PI) / 180)];
    const own = Math.hypot(e, n);
    return {
      current_speed_ms: round(Math.max(0, stream.rate * own + random.normal(0, 0.05)), 2),
      current_to_deg: Math.round((Math.atan2(e, n) * 180) / Math.PI + random.normal(0, 8) + 360) % 360,
    };
  }

  private cast(): void {
    const [x, y] = this.world.deepest;
    this.drive([x, y]);
    const bottom = this.fish.depthAt(x, y, this.boat.t);
    for (let z = 0; z <= bottom - 0.5; z += 1) {
      const at = this.fish.profile(this.start, z);
      this.rows.profiles.push({
        trip: this.key,
        profile: 'basin',
        time: this.time(this.boat.t),
        depth_m: z,
        temperature_c: round(at.temperature + this.random.normal(0, 0.08), 1),
        ...this.position(x, y),
        oxygen_mg_l: round(Math.max(0, at.oxygen + this.random.normal(0, 0.15)), 1),
      });
    }
    this.boat.t += 8 * MINUTE;
  }

  /** Humps near the ramp, old successes, a depth band somewhere, now and then just anywhere. */
  private choosePlace(): Point | null {
    const { random, world } = this;
    const roll = random.even();
    const near = (p: Point): boolean => Math.hypot(p[0] - this.boat.x, p[1] - this.boat.y) < 1900;
    if (roll < 0.3) {
      const humps = world.humps.filter((h) => near([h.x, h.y]));
      if (humps.length) {
        const h = random.pick(humps);
        return [h.x, h.y];
      }
    }
    if (roll < 0.5 && this.memory.length) return random.pick(this.memory);
    // The fish of a sound stand deeper than those of a lake, and its guide knows.
    const [cold, warm, any] = this.fish.tide ? SEA_BANDS : LAKE_BANDS;
    const band = roll < 0.85 ? (this.weather.surface < 10 ? cold : warm) : any;
    for (let k = 0; k < 300; k++) {
      const g = random.pick(this.fish.ground);
      if (g.depth > band[0] && g.depth < band[1] && near([g.x, g.y])) return [g.x, g.y];
    }
    return null;
  }

  private fix(mode: string, more: Row = {}): void {
    const { boat } = this;
    this.rows.track.push({
      trip: this.key,
      time: this.time(boat.t),
      ...this.position(boat.x, boat.y),
      mode,
      depth_m: round(Math.max(0.2, this.fish.depthAt(boat.x, boat.y, boat.t) + this.random.normal(0, 0.05)), 2),
      heading_deg: null,
      view: null,
      port_range_m: null,
      starboard_range_m: null,
      sector_deg: null,
      sector_range_m: null,
      ...more,
    });
  }

  private drive([x, y]: Point): void {
    const distance = Math.hypot(x - this.boat.x, y - this.boat.y);
    const steps = Math.floor(distance / 60);
    const from = { ...this.boat };
    for (let s = 1; s <= steps; s++) {
      Object.assign(this.boat, {
        x: from.x + ((x - from.x) * s) / (steps + 1),
        y: from.y + ((y - from.y) * s) / (steps + 1),
        t: this.boat.t + 9 * SECOND,
      });
      if (s % 3 === 0) this.fix('transit');
    }
    Object.assign(this.boat, { x, y, t: this.boat.t + 20 * SECOND });
  }

  /** S-passes about a place with side-scan (or only the sounder); gives the packs found. */
  private search([cx, cy]: Point): Pack[] {
    const { random, world } = this;
    const side = random.chance(0.8);
    const range = side ? random.pick([20, 25, 30]) : 0;
    const spacing = side ? range * 1.6 : 22;
    const legs = side ? random.whole(1, 3) : random.whole(2, 4);
    const length = random.even(90, 200);
    const angle = random.even(0, Math.PI);
    const [ux, uy] = [Math.cos(angle), Math.sin(angle)];
    const found: Pack[] = [];
    for (let leg = 0; leg < legs; leg++) {
      const off = (leg - (legs - 1) / 2) * spacing;
      const way = leg % 2 === 0 ? 1 : -1;
      const speed = random.even(1.7, 2.4);
      this.boat.t += 12 * SECOND;
      for (let s = -length / 2; s <= length / 2; s += speed * 6) {
        const [x, y] = [cx + ux * s * way - uy * off, cy + uy * s * way + ux * off];
        if (world.depth(x, y) <= 0.5) continue;
        // Round a spit of land it goes fast, but it goes.
        const seconds = Math.ceil(Math.hypot(x - this.boat.x, y - this.boat.y) / ROUND_LAND);
        Object.assign(this.boat, { x, y, t: this.boat.t + Math.max(6, seconds) * SECOND });
        this.fix('scan', side ? { view: 'side-scan', port_range_m: range, starboard_range_m: range } : { view: 'sounder' });
        found.push(...this.watch(range, [ux * way, uy * way]));
      }
    }
    return found;
  }

  /** What the screen shows at this fix and what of it gets marked. */
  private watch(range: number, heading: Point): Pack[] {
    const { boat, random } = this;
    const here = this.fish.depthAt(boat.x, boat.y, boat.t);
    // The range is a slant range: over the ground it reaches less far.
    const reach = range ? sideScanDistance(range, Math.max(0, here - DEFAULT_RIG.transducerDepth)) : coneWidth(here, 20) / 2 + 1;
    const found: Pack[] = [];
    for (const pack of this.day.at(boat.t)) {
      const dx = pack.x - boat.x;
      const dy = pack.y - boat.y;
      if (dx > 40 || dx < -40 || dy > 40 || dy < -40) continue;
      const along = dx * heading[0] + dy * heading[1];
      const across = Math.abs(dx * heading[1] - dy * heading[0]);
      if (Math.abs(along) > 6.5 || across > reach) continue;
      const tight = pack.water - pack.depth < 0.35 ? 0.45 : 1;
      const blind = range && across < pack.water * 0.25 ? 0.6 : 1;
      const sees = (range ? 0.72 - 0.012 * Math.max(0, pack.water - 8) : 0.85) * tight * blind * Math.min(1, 0.55 + 0.1 * pack.count);
      if (!random.chance(sees)) continue;
      if (this.seen.has(pack.id) && random.chance(0.45)) continue;
      this.mark(pack, range ? 'side-scan' : 'sounder');
      if (range && random.chance(0.16)) this.mark(pack, 'down-beam', 50 * SECOND);
      if (!pack.bait) found.push(pack);
    }
    // Now and then a speck of clutter is taken for a fish.
    if (random.chance(0.006)) this.clutter(reach);
    if (random.chance(0.03)) this.markCover(reach);
    return found;
  }

  private base(t: number, x: number, y: number, kind: string): Row {
    const noise = (): number => this.random.normal(0, 2.2);
    const columns = [
      'same_as',
      'stop',
      'view',
      'rig',
      'settings',
      'species',
      'confidence',
      'confirmed',
      'count',
      'size',
      'water_depth_m',
      'top_m',
      'bottom_m',
      'form',
      'density',
      'core',
      'hardness',
      'cover',
      'side_of_cover',
      'behaviour',
      'notes',
    ];
    return {
      trip: this.key,
      time: this.time(t),
      ...this.position(x + noise(), y + noise()),
      kind,
      contact: `${this.key}-${++this.marks}`,
      ...Object.fromEntries(columns.map((c) => [c, null])),
      water_depth_m: round(this.fish.depthAt(x, y, t), 1),
    };
  }

  private mark(pack: Pack, view: string, later = 0, more: Row = {}): string {
    const { random } = this;
    const row = this.base(this.boat.t + later, pack.x, pack.y, pack.bait ? 'bait' : 'fish');
    const names = pack.kind.takenFor;
    let guess = names[0][0];
    if (names.length > 1) {
      let roll = random.even();
      guess = (names.find(([, share]) => (roll -= share) <= 0) ?? names[0])[0];
    }
    const top = Math.max(0.1, pack.depth - pack.half + random.normal(0, 0.15));
    const earlier = this.seen.get(pack.id);
    Object.assign(row, {
      // The angler mostly notices that this is the pack of before; not always.
      same_as: earlier && (later > 0 || more.view === 'line' || random.chance(0.8)) ? earlier : null,
      view,
      rig: 'bow unit',
      species: pack.bait && random.chance(0.5) ? null : guess,
      confidence: pack.bait ? null : round(random.even(0.55, 0.9), 2),
      confirmed: 'none',
      count: pack.bait ? null : Math.max(1, Math.round(pack.count * random.even(0.6, 1.3))),
      size: random.chance(0.6) ? pack.size : null,
      top_m: round(top, 1),
      bottom_m: round(Math.max(top, Math.min(pack.water, pack.depth + pack.half)), 1),
      form: oneOf(pack.kind.form, random),
      density: pack.bait ? random.pick(['loose', 'medium', 'tight']) : null,
      core: oneOf(pack.kind.core, random),
      cover: pack.byCover ? coverBy(this.fish, pack) : null,
      side_of_cover: pack.byCover ? sideOfCover(this.fish, pack, this.boat.t) : null,
      ...more,
    });
    this.rows.contacts.push(row);
    if (!this.seen.has(pack.id)) this.seen.set(pack.id, String(row.contact));
    return String(row.contact);
  }

  private clutter(reach: number): void {
    const { boat, random } = this;
    const [x, y] = [boat.x + random.even(-reach, reach), boat.y + random.even(-reach, reach)];
    const water = this.fish.depthAt(x, y, boat.t);
    if (water < 1) return;
    this.rows.contacts.push({
      ...this.base(boat.t, x, y, 'fish'),
      view: 'side-scan',
      species: random.pick(this.fish.rules.filter((kind) => !kind.bait)).name,
      confidence: round(random.even(0.35, 0.65), 2),
      confirmed: 'none',
      count: 1,
      top_m: round(water * random.even(0.3, 0.95), 1),
      form: 'specks',
      core: 'weak',
    });
  }

  private markCover(reach: number): void {
    const { boat } = this;
    const thing = this.world.cover.find((c) => c.kind === 'cover' && Math.hypot(c.points[0][0] - boat.x, c.points[0][1] - boat.y) < reach);
    if (!thing) return;
    const [x, y] = thing.points[0];
    const water = this.fish.depthAt(x, y, boat.t);
    this.rows.contacts.push({
      ...this.base(boat.t, x, y, 'cover'),
      view: 'side-scan',
      cover: thing.cover,
      top_m: round(Math.max(0.3, water - 1.8), 1),
      bottom_m: round(water, 1),
      hardness: round(this.world.hardness(x, y), 2),
    });
  }

  private nothingHere(): void {
    const { boat } = this;
    const at = this.position(boat.x, boat.y);
    this.rows.stops.push({
      trip: this.key,
      stop: `${this.key}-s${++this.stops}`,
      start: this.time(boat.t),
      end: this.time(boat.t),
      ...at,
      radius_m: 25,
      rods: 1,
      outcome: 'nothing',
      boats_near: null,
      notes: null,
    });
  }

  private fishAt(pack: Pack): void {
    const { boat, random } = this;
    const key = `${this.key}-s${++this.stops}`;
    const beside = { x: pack.x + random.normal(0, 6), y: pack.y + random.normal(0, 6) };
    // Close under the shore the boat lies over the fish, or stays where it saw them: beside them would be land.
    const place = [beside, pack].find(({ x, y }) => this.world.depth(x, y) > 0) ?? boat;
    Object.assign(boat, { x: place.x, y: place.y, t: boat.t + 2 * MINUTE });
    const from = boat.t;
    const unfishable = this.weather.windSpeed > 7.2 && random.chance(0.3);
    const rods = random.whole(1, 3);
    const minutes = unfishable ? 3 : random.even(8, 28);
    const lure = random.pick(LURES);
    let best: string = 'nothing';
    const bites = unfishable
      ? 0
      : Math.min(
          pack.count,
          random.poisson(pack.kind.bites * minutes * Math.min(2, rods) * (Math.abs(this.weather.surface - 17) < 6 ? 1 : 0.6)),
        );
    let landedOne: string | null = null;
    const respond = (response: string, t: number, more: Row = {}): void => {
      this.rows.responses.push({
        trip: this.key,
        time: this.time(t),
        response,
        contact: this.seen.get(pack.id) ?? null,
        stop: key,
        species: null,
        length_m: null,
        mass_kg: null,
        fate: null,
        depth_m: round(pack.depth, 1),
        lure: lure[0],
        lure_mass_g: lure[1],
        lure_colour: lure[2],
        presentation: random.pick(['falling past them', 'moving above them', 'still beside cover']),
        casts: random.whole(3, 18),
        notes: null,
        ...more,
      });
    };
    for (let b = 0; b < bites; b++) {
      const t = from + ((b + random.even(0.2, 0.9)) * minutes * MINUTE) / (bites + 1);
      if (random.chance(0.6)) {
        const [mean, spread] = pack.kind.length;
        respond('landed', t, {
          species: pack.species,
          length_m: round(Math.max(0.14, random.normal(mean, spread)), 2),
          fate: random.chance(0.85) ? 'released' : 'kept',
        });
        best = 'fish';
        if (!landedOne)
          landedOne = this.mark(pack, 'line', t - this.boat.t, {
            view: 'line',
            species: pack.species,
            confirmed: 'catch',
            confidence: 1,
            stop: key,
            form: null,
          });
      } else {
        respond(random.pick(['struck', 'lost', 'followed']), t);
        if (best !== 'fish') best = 'bites';
      }
    }
    if (!unfishable && bites === 0 && random.chance(0.4)) {
      respond(random.pick(['ignored', 'turned', 'followed']), from + 3 * MINUTE);
      best = 'follows';
    }
    if (landedOne && !this.memory.some((m) => Math.hypot(m[0] - pack.x, m[1] - pack.y) < 60)) this.memory.push([pack.x, pack.y]);
    this.fix('fish');
    boat.t = from + minutes * MINUTE;
    this.fix('fish');
    this.rows.stops.push({
      trip: this.key,
      stop: key,
      start: this.time(from),
      end: this.time(boat.t),
      ...this.position(boat.x, boat.y),
      radius_m: 20,
      rods,
      outcome: unfishable ? 'unfishable' : best === 'nothing' ? 'seen' : best,
      boats_near: random.chance(0.2) ? random.whole(1, 4) : null,
      notes: unfishable ? 'blown off' : null,
    });
  }
}

/** One of several; no draw where there is only one. */
const oneOf = (from: string[], random: Random): string => (from.length > 1 ? random.pick(from) : from[0]);

const round = (v: number, digits: number): number => Number(v.toFixed(digits));
