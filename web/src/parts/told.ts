/** What went wrong, as it is shown: what is thrown here was worded where it was thrown. */
export const told = (error: unknown): string => (error instanceof Error ? error.message : String(error));
