let tickets = 0

/** A number for a piece of work in the planning worker: the newest wins. */
export const nextTicket = (): number => ++tickets
