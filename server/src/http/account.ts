import type { Request } from 'express';

/** The account a request works for. One local account is signed in on loopback; people come later. */
export const accountOf = (request: Request): string => request.app.locals.account as string;
