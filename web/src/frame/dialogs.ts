/** Where the code of what opens over a view comes from. */
export const findDialog = async () => ({ default: (await import('./FindDialog')).FindDialog })
export const keysDialog = async () => ({ default: (await import('./KeysDialog')).KeysDialog })
