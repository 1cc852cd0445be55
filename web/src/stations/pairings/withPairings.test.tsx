/** @jest-environment jsdom */
import { expect, test } from '@jest/globals'
import { screen } from '@testing-library/react'
import { PretendServer, refusal, show } from '../../testing/view'
import { WithPairings } from './WithPairings'

test.each(['/trials', '/take-offs'])('where %s do not come that is said, until they do', async (lost) => {
  let isLost = true
  new PretendServer(({ path }) => {
    if (path === lost && isLost) return refusal(500, 'INTERNAL', 'Something went wrong.')
    return { body: path === '/families' ? { families: [], clings: [] } : { items: [], total: 0 } }
  })
  const { user, container } = show(
    <WithPairings isPage>
      <p>fitted</p>
    </WithPairings>,
  )
  expect(container.querySelector('[aria-busy=true]')).not.toBeNull()
  expect((await screen.findByRole('alert')).textContent).toContain('Something went wrong.')
  expect(screen.getByRole('main').querySelector('h1')!.textContent).toBe('This pairing did not arrive')
  isLost = false
  await user.click(screen.getByRole('button', { name: 'Try again' }))
  expect(await screen.findByText('fitted')).toBeTruthy()
  expect(screen.queryByRole('alert')).toBeNull()
})
