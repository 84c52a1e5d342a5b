/** Header of an answer that the device kept, not the server gave: when it was kept, ms. */
export const KEPT_AT = 'X-Kept-At';
