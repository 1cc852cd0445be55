import { readFileSync } from 'node:fs'
import type { StoredTakeOff } from '@tender/contract'
import { boxes } from '@tender/core/testing'
import { aSmallPlan, expect, settled, test } from './app'

const recordOf = async (url: string, id: string): Promise<StoredTakeOff> =>
  (await (await fetch(`${url}/api/take-offs/${id}`)).json()) as StoredTakeOff

test('the circle closes: a plan is printed, taken off and read; what that teaches marks the plan and makes a variant', async ({
  page,
  untouched,
}) => {
  const post = boxes([
    { size: [8, 8, 24], at: [0, 0, 0] },
    { size: [20, 8, 3], at: [-20, 0, 10] },
    { size: [20, 8, 3], at: [8, 0, 21] },
  ])
  const planId = await aSmallPlan(
    untouched.url,
    'Signpost',
    post,
    await untouched.idOf('plans', 'Chalk only'),
  )
  await page.goto(`${untouched.url}/plans/${planId}`)
  await settled(page)
  await page.getByRole('button', { name: 'Take to printer' }).click()
  await page.getByRole('menuitem', { name: 'It is printed' }).click()
  await expect(page.getByRole('heading', { level: 1, name: /^Signpost, Signpost/ })).toBeVisible()
  const id = page.url().split('/').at(-1)!.split('?')[0]
  const { printed } = await recordOf(untouched.url, id)
  await expect(page.getByText(`None of ${printed.contacts.length} contacts read yet.`)).toBeVisible()

  // Read by the keys of a trial: everything stuck at the gap that was planned.
  await page.getByRole('button', { name: /^1, .*not read/ }).focus()
  for (const [n] of printed.contacts.entries()) {
    if (n > 0) await page.keyboard.press('ArrowRight')
    await page.keyboard.press('5')
    await page.keyboard.press('a')
  }
  await page.getByLabel('Minutes').fill('40')
  await page.getByLabel('Minutes').press('Tab')
  // A comma is a point.
  await page.getByLabel('Part weighs').pressSequentially('43,5')
  await page.getByLabel('Part weighs').press('Tab')
  await expect(page.getByLabel('Part weighs')).toHaveValue('43.5')
  await expect(page.getByText('0 of')).toBeVisible()
  const teaches = page.getByLabel('What it teaches', { exact: true })
  await expect(teaches).toContainText('Gap of Chalk PLA on itself')
  await expect(teaches).toContainText('Minutes of taking off')
  await expect
    .poll(async () => (await recordOf(untouched.url, id)).notes.filter(({ release }) => release === 5).length)
    .toBe(printed.contacts.length)

  // The plan stands on older readings now, and says what they would change.
  await page.getByRole('link', { name: 'Signpost', exact: true }).first().click()
  await settled(page)
  await expect(page.getByText('More has been read since this plan was made.')).toBeVisible()
  await expect(page.getByLabel('How it comes off')).toContainText(/by 2 take-offs; guessed were/)
  await page.getByRole('button', { name: 'Take the new readings' }).click()
  await expect(page.getByText('More has been read since')).toHaveCount(0)
  await expect
    .poll(async () => {
      const { document } = await (await fetch(`${untouched.url}/api/plans/${planId}`)).json()
      return document.evidence.upperGapMm.trials.map(({ id: of }: { id: string }) => of).join()
    })
    .toContain(`take-off.${id}`)
  // What it was printed from stays as it was.
  await page.goto(`${untouched.url}/take-offs/${id}`)
  expect((await recordOf(untouched.url, id)).document.decisions.upperGapMm).toBe(printed.contacts[0].gapMm)

  // A lesson that is not believed is left out, and the answer goes back.
  await page.getByLabel('Heed “Gap of Chalk PLA on itself”').focus()
  await page.keyboard.press('Space')
  await expect(teaches).toContainText('left out: it would move this')
  expect((await recordOf(untouched.url, id)).lessonsLeftOut).toEqual(['gap'])

  // A complaint leads to a cause, and that to a variant with one thing changed.
  await page.getByRole('button', { name: 'will not come off' }).click()
  await page.getByRole('button', { name: 'Make this variant' }).first().click()
  await expect(page).toHaveURL(/\/plans\//)
  await expect(page.getByRole('heading', { level: 1, name: /^Signpost, 2/ })).toBeVisible()

  // So does one about a print that never got as far as a record.
  await page.getByRole('button', { name: 'Take to printer' }).click()
  await page.getByRole('menuitem', { name: 'It went wrong' }).click()
  const wrong = page.getByRole('dialog', { name: 'What went wrong? Point at it' })
  await wrong.getByRole('button', { name: /Where/ }).click()
  await page.getByRole('option', { name: /^1, .* underside at/ }).click()
  await wrong.getByRole('button', { name: 'sagging face' }).click()
  const before = page.url()
  await wrong.getByRole('button', { name: 'Make this variant' }).first().click()
  await expect(page).not.toHaveURL(before)
  await expect(page.getByRole('heading', { level: 1, name: /^Signpost, / })).toBeVisible()
})

test('a record on a phone, by keyboard, with the connection dropping in the middle: nothing lost, nothing doubled', async ({
  page,
  demo,
  context,
}) => {
  const id = await demo.idOf('take-offs', 'Louvre shield with Moss')
  await page.setViewportSize({ width: 390, height: 844 })
  await page.goto(`${demo.url}/take-offs/${id}`)
  await page.getByRole('button', { name: /^1, / }).focus()
  for (let n = 1; n < 4; n++) await page.keyboard.press('ArrowRight')
  await page.keyboard.press('2')
  await expect.poll(async () => (await recordOf(demo.url, id)).notes.length).toBe(5)
  await expect(page.getByText(/not with the server yet/)).toHaveCount(0)
  await context.setOffline(true)
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('1')
  await page.keyboard.press('w')
  await page.keyboard.press('s')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('3')
  // What is said while a note is on its way waits as a note of its own.
  await expect(page.getByText(/[23] notes not with the server yet/)).toBeVisible()
  expect((await recordOf(demo.url, id)).notes).toHaveLength(5)
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  await context.setOffline(false)
  await expect.poll(async () => (await recordOf(demo.url, id)).notes.length).toBe(7)
  await expect(page.getByText(/not with the server yet/)).toHaveCount(0)
  const { notes } = await recordOf(demo.url, id)
  expect(notes.find(({ at }) => at === 'c5')).toMatchObject({ release: 1, finish: 2, stayed: 'some' })
  expect(notes.find(({ at }) => at === 'c6')).toMatchObject({ release: 3, finish: null })
  // Each came once: what was said in one breath is one revision.
  expect(notes.filter(({ at }) => ['c5', 'c6'].includes(at)).map(({ revision }) => revision)).toEqual([
    expect.any(Number),
    1,
  ])
  // What leaves the app is what the command line reads.
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Take it along' }).click()
  const file = JSON.parse(readFileSync(await (await download).path(), 'utf8'))
  expect(file).toMatchObject({ format: 'tender-take-off', version: 1, name: 'Louvre shield with Moss' })
  expect(file.notes).toHaveLength(7)
})
