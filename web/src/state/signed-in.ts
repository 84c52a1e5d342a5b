import { shared } from './shared';

const refused = shared(false);

/** The server answered whether whoever asks is signed in. */
export const noteSignedIn = (signedIn: boolean): void => refused.set(!signedIn);

/** Whether the server wants a password first. */
export const useRefused = refused.use;
