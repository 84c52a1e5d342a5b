import { app } from './app';
import { bench } from './bench';
import { brief } from './brief';
import { chart } from './chart';
import { covariates } from './covariates';
import { debates } from './debates';
import { deck } from './deck';
import { forecast } from './forecast';
import { imports } from './imports';
import { logbook } from './logbook';
import { parts } from './parts';
import { patterns } from './patterns';
import { plan } from './plan';
import { problems } from './problems';
import { statements } from './statements';
import { terms } from './terms';
import { waters } from './waters';

/** All words of the application in English: a file a view. A language is a folder like this one with the same keys. */
export const en = {
  app,
  bench,
  brief,
  chart,
  covariates,
  debates,
  deck,
  forecast,
  imports,
  logbook,
  parts,
  patterns,
  plan,
  problems,
  statements,
  terms,
  waters,
};

/** The same keys in another language. */
export type Catalogue = { readonly [V in keyof typeof en]: Readonly<Record<keyof (typeof en)[V], string>> };
