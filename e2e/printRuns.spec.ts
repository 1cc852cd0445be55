import type { PrintRun, StoredTakeOff, Trial } from '@tender/contract'
import { aSmallPlan, expect, expectAccessible, settled, test } from './app'

test('a plan is rehearsed: sent to the stand-in, stopped by an empty spool, gone on with over a restart, taken off by stand-ins', async ({
  page,
  rehearsed: app,
}) => {
  await page.goto(`${app.url}/plans/${await aSmallPlan(app.url, 'Small table')}`)
  await settled(page)
  await page.getByRole('button', { name: 'Take to printer' }).click()
  await page.getByRole('menuitem', { name: 'Print it from here' }).click()
  await expect(page.getByText('Whatever comes of it is marked as simulated.')).toBeVisible()
  // Some twenty seconds: on a busy machine, too, it is still at work when it is told to fail.
  await page.getByLabel('Quicker than a printer').fill('30')
  await page.getByLabel('Quicker than a printer').press('Tab')
  await page.getByRole('button', { name: 'Print Small table' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'On the printer' })).toBeVisible({
    timeout: 180_000,
  })
  const id = page.url().split('/').at(-2)!
  const run = async (): Promise<PrintRun> =>
    (await (await fetch(`${app.url}/api/prints?takeOff=${id}`)).json())[0] as PrintRun
  const state = page.getByRole('main').getByRole('status')
  await expect(state).toContainText(/Printing height \d+ of \d+/)
  await expect.poll(async () => (await run()).progress.layer ?? 0).toBeGreaterThan(2)
  await page.getByRole('button', { name: 'runs out' }).click()
  await expect(state).toContainText('has run out')
  await expect(page.getByLabel('What the printer says')).toContainText(/T0:\d+/)
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Go on' }).click()
  await expect(state).toContainText('Printing')
  const before = await run()
  await app.stop()
  await app.restart()
  await expect(state).toContainText('Done: every line of it.', { timeout: 300_000 })
  const done = await run()
  expect(done.progress.doneBytes).toBe(done.bytes)
  expect(done.progress.commands).toBeGreaterThan(before.progress.commands)

  await page.getByRole('link', { name: 'Take it off' }).click()
  await page.getByRole('button', { name: 'Let the stand-ins read it' }).click()
  await expect(page.getByText('Read by the stand-ins.')).toBeVisible()
  await expect(page.getByText('simulated', { exact: true })).toBeVisible()
  const record = (await (await fetch(`${app.url}/api/take-offs/${id}`)).json()) as StoredTakeOff
  expect(record.simulated).toBe(true)
  expect(record.notes).toHaveLength(record.printed.contacts.length + 1)
  await expect(page.getByLabel('What it teaches', { exact: true })).toContainText('Gap of Part PLA on itself')
})

test('a coupon is printed on the stand-in and read by the others; a trial that a maker has read is not', async ({
  page,
  rehearsed: app,
}) => {
  const trials = (await (await fetch(`${app.url}/api/trials`)).json()) as { items: Trial[] }
  const read = trials.items.find(({ readings }) => readings.length > 0)!
  await page.goto(`${app.url}/trials/${read.id}`)
  await expect(page.getByRole('heading', { level: 1, name: read.name })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Let the stand-ins read it' })).toHaveCount(0)
  const { id: _, revision: __, updatedAt: ___, readings: ____, photos: _____, ...rest } = read
  const { printerName: _p, partFilamentName: _a, supportFilamentName: _b, ...input } = rest
  const made = async (name: string) => {
    const id = crypto.randomUUID()
    await fetch(`${app.url}/api/trials/${id}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ ...input, name }),
    })
    await page.goto(`${app.url}/trials/${id}`)
    return id
  }
  await made('Rehearsed at once')
  await page.getByRole('button', { name: 'Let the stand-ins read it' }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Rehearse it' }).click()
  await expect(page.getByText('simulated', { exact: true })).toBeVisible()
  // Nothing is left to be read, or to be printed.
  await expect(page.getByRole('button', { name: /stand-ins read it|Print it from here/ })).toHaveCount(0)

  const id = await made('Rehearsed from the bed on')
  await page.getByRole('button', { name: 'Print it from here' }).click()
  await page.getByLabel('Quicker than a printer').fill('5000')
  await page.getByLabel('Quicker than a printer').press('Tab')
  await page.getByRole('button', { name: 'Print Rehearsed from the bed on' }).click()
  await expect(page.getByRole('img', { name: /^The coupon at \d/ })).toBeVisible({ timeout: 90_000 })
  await expectAccessible(page)
  await expect(page.getByRole('main').getByRole('status')).toContainText('Done', { timeout: 180_000 })
  await page.getByRole('link', { name: 'Read it' }).click()
  await expect(page.getByText('simulated', { exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Let the stand-ins read it' }).click()
  await expect(page.getByRole('button', { name: 'Let the stand-ins read it' })).toHaveCount(0)
  const trial = (await (await fetch(`${app.url}/api/trials/${id}`)).json()) as Trial
  expect(trial).toMatchObject({ simulated: true })
  expect(trial.readings.length).toBeGreaterThan(3)
})
