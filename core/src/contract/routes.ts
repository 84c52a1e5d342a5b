import type { Schema } from 'yup';
import { schemas } from '../logbook';
import { depthRuleSchema, speciesSchema } from '../species';
import { tideSchema } from '../tide';
import type { Answers } from './answers';
import * as requests from './requests';

export const METHODS = ['GET', 'POST', 'PUT', 'DELETE'] as const;
export type Method = (typeof METHODS)[number];

/** One route: what it is for, what it takes, and what it answers where that is not JSON. */
export interface RouteSpec {
  readonly says: string;
  /** The body, where there is one. */
  readonly takes?: Schema;
  /** Names in the query, all optional. */
  readonly query?: readonly string[];
  /** Anything else than JSON. */
  readonly gives?: 'bytes' | 'events' | 'file';
  /** Of a success, where it is not 200. */
  readonly status?: 201 | 202;
  /** Takes the bytes of a file instead of JSON. */
  readonly file?: true;
}

const record = (what: string, schema: Schema) => ({
  put: { says: `Adds a ${what} under its client-made id, or edits it.`, takes: schema, query: ['base'] },
  remove: { says: `Puts a ${what} into the trash.` },
  restore: { says: `Takes a ${what} out of the trash.`, takes: requests.asItWas },
});
const stop = record('stop', schemas.stop);
const contact = record('contact', schemas.contact);
const response = record('response', schemas.response);
const reading = record('reading', schemas.reading);
const photo = record('photo', schemas.photo);
const gear = record('piece of gear', schemas.gear);

/** Every route of the HTTP interface, below /api. */
export const ROUTES = {
  'GET /openapi.json': { says: 'This description.', gives: 'bytes' },
  'GET /health': { says: 'Whether the server and its database answer.' },
  'GET /reach': { says: 'How another device finds the server.' },
  'POST /session': { says: 'Signs a device in.', takes: requests.signIn, status: 201 },
  'DELETE /session': { says: 'Signs a device out.' },
  'GET /backup': { says: 'The whole logbook as one ZIP.', gives: 'file' },
  'GET /backups': { says: 'The backups that are made by themselves.' },
  'PUT /backups': { says: 'Where and how often they are made.', takes: requests.backupSettings },
  'POST /backups': { says: 'Makes one now.', takes: requests.nothing, status: 201 },
  'GET /trash': { says: 'What was deleted and can be brought back.' },
  'POST /demo': { says: 'Brings a demo water in: the lake where none is named.', takes: requests.demo, status: 202 },
  'PUT /uploads/:upload/:file': { says: 'Sends a file of an import.', file: true },
  'POST /imports/preview': { says: 'What an import would do.', takes: requests.importing },
  'POST /imports': { says: 'Imports the files that were sent.', takes: requests.importing, status: 202 },
  'GET /jobs/:job': { says: 'How far long work is.' },
  'DELETE /jobs/:job': { says: 'Cancels long work.' },

  'GET /waters': { says: 'All waters.' },
  'PUT /waters/:water': { says: 'Adds a water under its client-made id, or changes it.', takes: schemas.water },
  'GET /waters/:water': { says: 'A water with its shore, cover and species.' },
  'DELETE /waters/:water': { says: 'Puts a water into the trash.' },
  'POST /waters/:water/restore': { says: 'Takes a water out of the trash.', takes: requests.asItWas },
  'POST /waters/:water/archive': { says: 'Puts a water away, or takes it up again.', takes: requests.archive },
  'PUT /waters/:water/rules': { says: 'The depth rule of a water.', takes: depthRuleSchema },
  'PUT /waters/:water/species/:name': { says: 'Changes what a species needs.', takes: speciesSchema },
  'GET /waters/:water/log': { says: 'Trips, readings and profiles.' },
  'GET /waters/:water/pulse': { says: 'What has changed last.' },
  'GET /waters/:water/contacts': { says: 'All contacts.' },
  'GET /waters/:water/looks': { says: 'Looks by trip, as far as they are derived (X-Deriving).' },
  'GET /waters/:water/looked-at': { says: 'How often each cell was looked at, and looks of trips that run (X-Deriving).' },
  'GET /waters/:water/logbook': { says: 'The whole log as patterns are found from it, in columns (X-Deriving).', gives: 'bytes' },
  'GET /waters/:water/rod-hours': { says: 'Fish and bites per rod-hour.', query: ['species'] },
  'GET /waters/:water/jobs': { says: 'Long work on a water that is under way.' },
  'GET /waters/:water/surveys': { says: 'Imports of soundings.' },
  'GET /waters/:water/soundings': { says: 'All soundings.', gives: 'bytes' },
  'GET /waters/:water/chart': { says: 'The chart.', gives: 'bytes' },
  'POST /waters/:water/chart': { says: 'Builds the chart anew.', takes: requests.nothing, status: 202 },
  'PUT /waters/:water/cleaning': { says: 'How soundings are cleaned.', takes: schemas.cleaning, status: 202 },
  'PUT /waters/:water/tide': { says: 'The tide of a water: soundings are reduced by it.', takes: tideSchema, status: 202 },
  'DELETE /waters/:water/tide': { says: 'Takes the tide away.', status: 202 },
  'PUT /waters/:water/outline': { says: 'Sets the shore.', takes: requests.outline, status: 202 },
  'POST /waters/:water/cover': { says: 'Adds cover or a hazard.', takes: schemas.cover, status: 202 },
  'DELETE /waters/:water/cover': { says: 'Takes all away that somebody else sent.', query: ['source'], status: 202 },
  'DELETE /waters/:water/cover/:id': { says: 'Takes cover away.', status: 202 },
  'GET /waters/:water/export/:file': {
    says: 'One file of an export, all as water.zip, or as shared.zip what others may have, places blurred to so many metres.',
    query: ['blur'],
    gives: 'file',
  },
  'GET /waters/:water/plan': { says: 'Places to go to.' },
  'POST /waters/:water/plan': { says: 'Adds places to the plan.', takes: requests.plan, status: 201 },
  'DELETE /waters/:water/plan/:place': { says: 'Takes a place off the plan.' },
  'GET /waters/:water/day-plan': { says: 'The plan of the day, in a list; an empty one while there is none.' },
  'PUT /waters/:water/day-plan': {
    says: 'The plan of the day; an older one than that of the server changes nothing.',
    takes: requests.dayPlan,
  },
  'DELETE /waters/:water/day-plan': { says: 'Drops the plan of the day.' },
  'GET /waters/:water/spots': { says: 'Spots, with what each yielded.' },
  'GET /waters/:water/spots/:spot/stops': { says: 'Stops at a spot, with the readings nearest in time.' },
  'PUT /waters/:water/spots/:spot': { says: 'Adds a spot under its client-made id, or changes it.', takes: requests.spot },
  'DELETE /waters/:water/spots/:spot': { says: 'Puts a spot into the trash.' },
  'POST /waters/:water/spots/:spot/restore': { says: 'Takes a spot out of the trash.', takes: requests.asItWas },
  'GET /waters/:water/photos': { says: 'Photos of all trips, without the pictures.' },
  'POST /waters/:water/models': { says: 'Fits the forecast of a species.', takes: requests.fit, status: 202 },
  'GET /waters/:water/models/:species': { says: 'The newest fit (X-Fitted-At, X-Stale); 204 while there is none.', gives: 'bytes' },
  'GET /waters/:water/models/:species/scores': { says: 'How fits did on trips held out.' },
  'GET /waters/:water/outcomes': { says: 'What ended trips saw of the forecasts shown on them (X-Deriving).' },

  'PUT /waters/:water/trips/:trip': { says: 'Adds a trip under its client-made id, or edits it.', takes: schemas.trip },
  'DELETE /waters/:water/trips/:trip': { says: 'Puts a trip into the trash.' },
  'POST /waters/:water/trips/:trip/restore': { says: 'Takes a trip out of the trash.', takes: requests.asItWas },
  'POST /waters/:water/trips/:trip/merge': { says: 'Makes another trip part of this one.', takes: requests.merge },
  'POST /waters/:water/trips/:trip/unmerge': { says: 'Makes a merged trip two again.', takes: requests.unmerge },
  'POST /waters/:water/trips/:trip/split': { says: 'Makes what was logged from a moment on a trip of its own.', takes: requests.split },
  'GET /logbook': { says: 'Trips of all waters, a line each.' },
  'GET /logbook/search': {
    says: 'Trips in which the words q, or one of the names in or (comma-separated), are written.',
    query: ['q', 'or'],
  },
  'GET /logbook/records': { says: 'The largest of each species that were landed.' },
  'GET /trips/:trip/changes': { says: 'What was changed in a trip, last first.' },
  'GET /trips/running': { says: 'Trips that run.' },
  'GET /trips/:trip': { says: 'A trip with its records.' },
  'PUT /trips/:trip/stops/:id': stop.put,
  'DELETE /trips/:trip/stops/:id': stop.remove,
  'POST /trips/:trip/stops/:id/restore': stop.restore,
  'PUT /trips/:trip/contacts/:id': contact.put,
  'DELETE /trips/:trip/contacts/:id': contact.remove,
  'POST /trips/:trip/contacts/:id/restore': contact.restore,
  'PUT /trips/:trip/responses/:id': response.put,
  'DELETE /trips/:trip/responses/:id': response.remove,
  'POST /trips/:trip/responses/:id/restore': response.restore,
  'PUT /trips/:trip/conditions/:id': reading.put,
  'DELETE /trips/:trip/conditions/:id': reading.remove,
  'POST /trips/:trip/conditions/:id/restore': reading.restore,
  'PUT /trips/:trip/photos/:id': photo.put,
  'DELETE /trips/:trip/photos/:id': photo.remove,
  'POST /trips/:trip/photos/:id/restore': photo.restore,
  'PUT /trips/:trip/photos/:id/picture': { says: 'Sends the picture of a photo, as JPEG, PNG or WebP.', file: true },
  'GET /trips/:trip/photos/:id/picture': { says: 'The picture, as JPEG.', query: ['size'], gives: 'bytes' },
  'GET /gear': { says: 'Rods, lures, rigs and boats.' },
  'PUT /gear/:id': gear.put,
  'DELETE /gear/:id': gear.remove,
  'POST /gear/:id/restore': gear.restore,
  'POST /trips/:trip/records': {
    says: 'Adds, changes, deletes and brings back many records, all of it or nothing.',
    takes: requests.edits,
  },
  'POST /trips/:trip/track': { says: 'Adds fixes of the boat.', takes: schemas.fixes, status: 201 },
  'PUT /trips/:trip/track/mode': { says: 'Puts the mode of a stretch right.', takes: requests.stretch },
  'POST /trips/:trip/conditions': { says: 'Adds a reading.', takes: schemas.reading, status: 201 },
  'POST /trips/:trip/profiles': { says: 'Adds the readings of a profile.', takes: schemas.profile, status: 201 },
  'PUT /trips/:trip/outlooks/:id': { says: 'Keeps a forecast as it was shown.', takes: requests.outlook },

  'GET /feed': { says: "The boat's network." },
  'PUT /feed': { says: 'Listens to a host.', takes: requests.feedSettings },
  'DELETE /feed': { says: 'Listens to nothing.' },
  'GET /feed/news': { says: 'What the network says, as it says it.', query: ['echoes'], gives: 'events' },
  'GET /feed/truth': { says: 'Where a simulated boat really is.', query: ['at'] },
  'POST /waters/:water/simulated-boat': { says: 'Starts a simulated boat.', takes: requests.simulation, status: 201 },
} as const satisfies Record<`${Method} /${string}`, RouteSpec>;

export type Route = keyof typeof ROUTES;
/** What a route takes as its body. */
export type Body<R extends Route> = R extends Route
  ? (typeof ROUTES)[R] extends { readonly takes: Schema<infer B> }
    ? B
    : undefined
  : never;
/** Routes that answer with JSON. */
export type JsonRoute = keyof Answers & Route;

type Names<P extends string> = P extends `${string}:${infer N}/${infer Rest}`
  ? N | Names<Rest>
  : P extends `${string}:${infer N}`
    ? N
    : never;
/** What stands in the address of a route. */
export type Params<R extends string> = { readonly [N in Names<R>]: string };
