/** Answers that are kept for other browsers are no longer than this. */
export const MOST_KEPT_BYTES = 2_000_000
