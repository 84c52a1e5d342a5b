import { copyOut } from './copy-out';
import type { Pool, Queryable } from './pool';

/** Soundings of a water as columns, sorted by survey and time; in degrees until a worker projects them. */
export interface StoredSoundings {
  count: number;
  /** Milliseconds since 1970. */
  time: Float64Array;
  latitude: Float64Array;
  longitude: Float64Array;
  depth: Float32Array;
  temperature: Float32Array;
  hardness: Float32Array;
  survey: Int32Array;
}

const make = (n: number): StoredSoundings => ({
  count: 0,
  time: new Float64Array(n),
  latitude: new Float64Array(n),
  longitude: new Float64Array(n),
  depth: new Float32Array(n),
  temperature: new Float32Array(n),
  hardness: new Float32Array(n),
  survey: new Int32Array(n),
});

/**
 * All soundings of a water: those of its surveys, and the depths that tracks of its trips carry (each trip is a survey
 * of its own, numbered below zero). Read by binary COPY: ten million rows never stand in memory as objects.
 */
export async function soundingColumns(pool: Pool, water: string): Promise<StoredSoundings> {
  const client = await pool.connect();
  try {
    const { n } = (
      await client.query<{ n: number }>(
        `SELECT (SELECT count(*) FROM soundings WHERE water_id = $1) +
                (SELECT count(*) FROM track k JOIN trips t ON t.id = k.trip_id
                  WHERE t.water_id = $1 AND t.deleted_at IS NULL AND k.deleted_at IS NULL AND k.depth_m > 0) AS n`,
        [water],
      )
    ).rows[0];
    // A few may come in between: there is room for them, and what does not fit waits for the next build.
    const out = make(n + 1000);
    const id = client.escapeLiteral(water);
    const stream = copyOut(
      client,
      `SELECT (extract(epoch FROM time) * 1000)::float8, latitude, longitude, depth_m::float4, temperature_c, hardness, survey_id::int4
            FROM soundings WHERE water_id = ${id}
          UNION ALL
          SELECT (extract(epoch FROM k.time) * 1000)::float8, k.latitude, k.longitude, k.depth_m, NULL::float4, NULL::float4, -(dense_rank() OVER (ORDER BY t.start, t.id))::int4
            FROM track k JOIN trips t ON t.id = k.trip_id
           WHERE t.water_id = ${id} AND t.deleted_at IS NULL AND k.deleted_at IS NULL AND k.depth_m > 0
          ORDER BY 7, 1`,
      '(FORMAT binary)',
    );
    let rest: Buffer = Buffer.alloc(0);
    let started = false;
    for await (const chunk of stream) {
      const data: Buffer = rest.length ? Buffer.concat([rest, chunk]) : chunk;
      let at = 0;
      if (!started) {
        if (data.length < 19) {
          rest = data;
          continue;
        }
        at = 19;
        started = true;
      }
      at = readRows(data, at, out);
      rest = data.subarray(at);
    }
    const cut = <T extends Float64Array | Float32Array | Int32Array>(column: T): T => column.subarray(0, out.count) as T;
    return {
      count: out.count,
      time: cut(out.time),
      latitude: cut(out.latitude),
      longitude: cut(out.longitude),
      depth: cut(out.depth),
      temperature: cut(out.temperature),
      hardness: cut(out.hardness),
      survey: cut(out.survey),
    };
  } finally {
    client.release();
  }
}

/** Reads whole rows of PostgreSQL's binary COPY. @returns where the first row begins that is not all there */
function readRows(data: Buffer, from: number, out: StoredSoundings): number {
  let at = from;
  for (;;) {
    if (at + 2 > data.length) return at;
    const fields = data.readInt16BE(at);
    if (fields < 0) return data.length;
    let p = at + 2;
    const row: number[] = [];
    for (let f = 0; f < fields; f++) {
      if (p + 4 > data.length) return at;
      const length = data.readInt32BE(p);
      p += 4;
      if (length < 0) row.push(NaN);
      else {
        if (p + length > data.length) return at;
        row.push(length === 8 ? data.readDoubleBE(p) : f === 6 ? data.readInt32BE(p) : data.readFloatBE(p));
        p += length;
      }
    }
    at = p;
    const n = out.count;
    if (n >= out.time.length) continue;
    out.time[n] = row[0];
    out.latitude[n] = row[1];
    out.longitude[n] = row[2];
    out.depth[n] = row[3];
    out.temperature[n] = row[4];
    out.hardness[n] = row[5];
    out.survey[n] = row[6];
    out.count++;
  }
}

/** Bottom hardness that marks told of. */
export const markedHardness = async (db: Queryable, water: string): Promise<{ latitude: number; longitude: number; hardness: number }[]> =>
  (
    await db.query<{ latitude: number; longitude: number; hardness: number }>(
      `SELECT c.latitude, c.longitude, c.hardness FROM contacts c JOIN trips t ON t.id = c.trip_id
        WHERE t.water_id = $1 AND c.hardness IS NOT NULL AND c.deleted_at IS NULL AND t.deleted_at IS NULL`,
      [water],
    )
  ).rows;

/** A survey as the page shows it. */
export interface SurveyRow {
  id: number;
  source: string;
  imported_at: string;
  soundings: number;
}

export const surveysOf = async (db: Queryable, water: string): Promise<SurveyRow[]> =>
  (
    await db.query<SurveyRow>(
      `SELECT s.id, s.source, s.imported_at, count(d.*) AS soundings FROM surveys s LEFT JOIN soundings d ON d.survey_id = s.id AND d.water_id = s.water_id
        WHERE s.water_id = $1 GROUP BY s.id ORDER BY s.id DESC`,
      [water],
    )
  ).rows;
