import { MOST_PHOTOS_PER_STEP, type StepPhoto } from '@tender/contract'
import { and, eq, isNull, ne, sql } from 'drizzle-orm'
import { blobOf, keepBlob, storedBlob, wholeOf } from '../blobs/store'
import { HttpProblem } from '../problem'
import type { Database } from '../storage/database'
import { notFound } from '../storage/shelf'
import { mustHaveStep } from './readings'
import { stepPhoto } from './schema'
import type { TakenPhoto } from './takePhoto'

export const photoFields = {
  id: stepPhoto.id,
  step: stepPhoto.step,
  widthPx: stepPhoto.widthPx,
  heightPx: stepPhoto.heightPx,
}

/**
 * Keeps a picture of a step; the same picture sent twice is one picture.
 * @throws HttpProblem NOT_FOUND, GONE, INVALID (field step), TOO_MANY
 */
export function addPhoto(
  db: Database,
  trialId: string,
  step: string,
  id: string,
  photo: TakenPhoto,
): Promise<StepPhoto> {
  return db.transaction(async (tx) => {
    // Several that come at once are counted one after the other.
    await mustHaveStep(tx, trialId, step, 'update')
    const others = await tx
      .select({ id: stepPhoto.id })
      .from(stepPhoto)
      .where(
        and(
          eq(stepPhoto.trialId, trialId),
          eq(stepPhoto.step, step),
          isNull(stepPhoto.deletedAt),
          ne(stepPhoto.id, id),
        ),
      )
    if (others.length >= MOST_PHOTOS_PER_STEP)
      throw new HttpProblem(
        'TOO_MANY',
        `A step holds up to ${MOST_PHOTOS_PER_STEP} pictures. This one was not stored; remove another first.`,
      )
    const { jpeg, ...size } = photo
    await tx
      .insert(stepPhoto)
      .values({ ...size, sha256: await keepBlob(tx, blobOf(jpeg)), id, trialId, step })
      .onConflictDoNothing({ target: stepPhoto.id })
    const [kept] = await tx.select(photoFields).from(stepPhoto).where(eq(stepPhoto.id, id))
    return kept
  })
}

/** @throws HttpProblem NOT_FOUND */
export async function photoBytes(db: Database, id: string): Promise<Buffer> {
  const [found] = await db
    .select({ sha256: stepPhoto.sha256 })
    .from(stepPhoto)
    .where(and(eq(stepPhoto.id, id), isNull(stepPhoto.deletedAt)))
  if (!found) throw notFound()
  return wholeOf(await storedBlob(db, found.sha256))
}

/** Marks a picture as removed, or brings it back; nothing is lost. @throws HttpProblem NOT_FOUND */
export async function keepPhoto(db: Database, id: string, keep: boolean): Promise<void> {
  const [row] = await db
    .update(stepPhoto)
    .set({ deletedAt: keep ? null : sql`coalesce(${stepPhoto.deletedAt}, now())` })
    .where(eq(stepPhoto.id, id))
    .returning({ id: stepPhoto.id })
  if (!row) throw notFound()
}
