/** What went wrong, in words for people: they are shown as they stand, without a trace of the program. */
export class ToldError extends Error {}
