import { PHOTO_SIDE_PX } from '@tender/contract'
import sharp from 'sharp'
import { HttpProblem } from '../problem'

export type TakenPhoto = { readonly widthPx: number; readonly heightPx: number; readonly jpeg: Buffer }

/** A phone's picture has some 50 million pixels; a bomb has far more behind a few bytes. */
const MOST_PIXELS = 60_000_000

const FORMATS: readonly string[] = ['jpeg', 'png', 'webp']

/**
 * Decodes a picture and encodes it anew, upright and no larger than we keep them: neither place nor device
 * nor anything else that the file carried goes along.
 * @throws HttpProblem FILE_REFUSED
 */
export async function takePhoto(bytes: Buffer): Promise<TakenPhoto> {
  if (bytes.length === 0) throw new HttpProblem('FILE_REFUSED', 'The picture is empty.')
  try {
    const picture = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'error' })
    // Drawings may refer to other things; photographs cannot.
    if (!FORMATS.includes((await picture.metadata()).format ?? '')) throw new Error('no photograph')
    const { data, info } = await picture
      .rotate()
      .resize(PHOTO_SIDE_PX, PHOTO_SIDE_PX, { fit: 'inside', withoutEnlargement: true })
      .flatten({ background: '#ffffff' })
      .jpeg({ quality: 82 })
      .toBuffer({ resolveWithObject: true })
    return { widthPx: info.width, heightPx: info.height, jpeg: data }
  } catch {
    throw new HttpProblem(
      'FILE_REFUSED',
      'This is no picture that can be read: a JPEG, PNG or WebP of up to 60 million pixels would do.',
    )
  }
}
