/** @jest-environment jsdom */
import { expect, test } from '@jest/globals'
import { PretendServer, refusal, show } from '../../testing/view'
import { screen, waitFor } from '@testing-library/react'
import { MOST_PHOTO_BYTES, MOST_PHOTOS_PER_STEP, type StepPhoto, type Trial } from '@tender/contract'
import { useQuery } from '@tanstack/react-query'
import { shelfKeys } from '../../api/shelves'
import { aTrial, idOf } from '../../testing/samples'
import { StepPhotos } from './StepPhotos'

const photo = (n: number, step = '0:0.2'): StepPhoto => ({
  id: idOf(200 + n),
  step,
  widthPx: 800,
  heightPx: 600,
})

/** The photos of a step as the trial in the cache has them. */
function Photos({ trial }: { trial: Trial }) {
  const { data } = useQuery({
    queryKey: shelfKeys.one('trials', trial.id),
    queryFn: () => trial,
    initialData: trial,
  })
  return <StepPhotos trialId={trial.id} step="0:0.2" photos={data.photos} called="tile 0.20 mm" />
}
const step = (photos: readonly StepPhoto[], server: PretendServer) => ({
  ...show(<Photos trial={aTrial({ photos: [...photos] })} />),
  server,
})
const pictures = () => screen.queryAllByRole('button', { name: /^Picture \d+ of/ })
const choose = (size = 10) => {
  const file = new File(['x'.repeat(size)], 'tile.jpg', { type: 'image/jpeg' })
  if (size === 11) Object.defineProperty(file, 'size', { value: MOST_PHOTO_BYTES + 1 })
  return file
}

test('only the pictures of this step are shown; one more goes to its step under an id of its own', async () => {
  const { user, server } = step(
    [photo(1), photo(2, '0:0.3')],
    new PretendServer(({ path }) => ({ body: { ...photo(9), id: path.split('/').at(-1) } })),
  )
  expect(pictures()).toHaveLength(1)
  await user.upload(screen.getByLabelText('Picture of tile 0.20 mm'), choose())
  await waitFor(() => expect(pictures()).toHaveLength(2))
  expect(server.changes[0].path).toMatch(/^\/trials\/.*\/photos\/0%3A0\.2\/[0-9a-f-]{36}$/)
})

test('a picture too large is not even sent, and a refused one is told', async () => {
  const { user, server } = step(
    [],
    new PretendServer(() => refusal(422, 'FILE_REFUSED', 'This is no picture that can be read.')),
  )
  await user.upload(screen.getByLabelText('Picture of tile 0.20 mm'), choose(11))
  expect((await screen.findByRole('alert')).textContent).toMatch(/The picture has \d+ MB; up to \d+ MB fit/)
  expect(server.changes).toHaveLength(0)
  await user.upload(screen.getByLabelText('Picture of tile 0.20 mm'), choose())
  expect(await screen.findByText('This is no picture that can be read.')).toBeTruthy()
  expect(pictures()).toHaveLength(0)
  await user.click(screen.getByRole('button', { name: 'Let that picture go' }))
  expect(screen.queryByText('This is no picture that can be read.')).toBeNull()
})

test('without a connection a picture waits, is sent once when the server is back, and stands where it was taken', async () => {
  const server = new PretendServer(({ path }) => ({ body: { ...photo(9), id: path.split('/').at(-1) } }))
  const { user } = step([], server)
  server.unplugged = true
  await user.upload(screen.getByLabelText('Picture of tile 0.20 mm'), choose())
  expect(await screen.findByText('1 picture kept in this browser until the server answers.')).toBeTruthy()
  expect(pictures()).toHaveLength(0)
  server.unplugged = false
  window.dispatchEvent(new Event('online'))
  await waitFor(() => expect(pictures()).toHaveLength(1))
  expect(screen.queryByText(/kept in this browser/)).toBeNull()
  window.dispatchEvent(new Event('online'))
  await new Promise((resolve) => setTimeout(resolve, 50))
  expect(server.changes).toHaveLength(1)
})

test('a full step takes no more', () => {
  step(
    Array.from({ length: MOST_PHOTOS_PER_STEP }, (_, i) => photo(i)),
    new PretendServer(() => ({ body: null })),
  )
  expect(screen.queryByRole('button', { name: /^Add/ })).toBeNull()
  expect(pictures()).toHaveLength(MOST_PHOTOS_PER_STEP)
})

test('a removed picture goes at once and comes back when asked', async () => {
  const { user, server } = step([photo(1)], new PretendServer(() => ({ body: null })))
  await user.click(pictures()[0])
  await user.click(screen.getByRole('button', { name: 'Remove the picture' }))
  await waitFor(() => expect(pictures()).toHaveLength(0))
  await user.click(screen.getByRole('button', { name: 'Bring back' }))
  await waitFor(() => expect(pictures()).toHaveLength(1))
  expect(server.changes.map(({ method, path }) => `${method} ${path.split('/').slice(-1)}`)).toEqual([
    `DELETE ${photo(1).id}`,
    'POST restore',
  ])
})
