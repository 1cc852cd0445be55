/** What a line is printed for. Everything but the part is thrown away. */
export const ROLES = ['part', 'stand', 'interface', 'footing', 'brim', 'purge', 'tower'] as const
export type Role = (typeof ROLES)[number]
