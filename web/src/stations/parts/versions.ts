import type { Part } from '@tender/contract'

/** All versions of the line that a part belongs to, the newest first. */
export function versionsOf(part: Part, parts: readonly Part[]): Part[] {
  const byId = new Map(parts.map((one) => [one.id, one]))
  byId.set(part.id, byId.get(part.id) ?? part)
  let newest = part
  const seen = new Set([part.id])
  for (;;) {
    const next = parts.find((one) => one.olderId === newest.id && !seen.has(one.id))
    if (!next) break
    seen.add((newest = next).id)
  }
  const line: Part[] = []
  const walked = new Set<string>()
  for (
    let one: Part | undefined = newest;
    one && !walked.has(one.id);
    one = one.olderId ? byId.get(one.olderId) : undefined
  ) {
    walked.add(one.id)
    line.push(one)
  }
  return line
}

/** The newest of every line, each with how many versions it has. */
export function newestVersions(parts: readonly Part[]): { readonly part: Part; readonly versions: number }[] {
  const replaced = new Set(parts.map(({ olderId }) => olderId).filter((id) => id !== null))
  return parts
    .filter(({ id }) => !replaced.has(id))
    .map((part) => ({ part, versions: versionsOf(part, parts).length }))
}
