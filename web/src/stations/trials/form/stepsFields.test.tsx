/** @jest-environment jsdom */
import { beforeEach, describe, expect, test } from '@jest/globals'
import type { TrialInput } from '@tender/contract'
import { COMPASS, FULL_COMPASS, STARTING_COUPONS, type CouponKind } from '@tender/core/trial'
import { screen } from '@testing-library/react'
import { useForm } from 'react-hook-form'
import { PretendServer, show } from '../../../testing/view'
import { StepsFields } from './StepsFields'

beforeEach(() => {
  localStorage.clear()
  new PretendServer(() => ({ body: null }))
})

/** The fields of a kind, and the coupon that they make. */
function shown(kind: CouponKind) {
  let coupon: Record<string, unknown> = {}
  function Form() {
    const { control, watch } = useForm<TrialInput>({
      defaultValues: { coupon: STARTING_COUPONS[kind] } as never,
    })
    coupon = watch('coupon') as unknown as Record<string, unknown>
    return <StepsFields kind={kind} control={control} />
  }
  return { ...show(<Form />), coupon: () => coupon }
}

describe('steps of a coupon', () => {
  test('sides of a fan are four told apart, eight, or one', async () => {
    const { user, coupon } = shown('fan')
    expect(screen.getByRole('radio', { name: 'four, told apart' }).getAttribute('aria-checked')).toBe('true')
    await user.click(screen.getByRole('radio', { name: 'eight' }))
    expect(coupon().directions).toEqual([...FULL_COMPASS])
    await user.click(screen.getByRole('radio', { name: 'one' }))
    expect(coupon().directions).toEqual(['any'])
    expect(screen.getByRole('radio', { name: 'one' }).getAttribute('aria-checked')).toBe('true')
    await user.click(screen.getByRole('radio', { name: 'four, told apart' }))
    expect(coupon().directions).toEqual([...COMPASS])
  })

  test('swaps and combs likewise', async () => {
    const purge = shown('purge')
    await purge.user.click(screen.getByRole('radio', { name: 'there only' }))
    expect(purge.coupon().swaps).toEqual(['AB'])
    purge.unmount()
    const offset = shown('offset')
    await offset.user.click(screen.getByRole('radio', { name: 'X and Y' }))
    expect(offset.coupon().axes).toEqual(['x', 'y'])
  })

  test('steps are typed in any order and with any marks between; each counts once, the smallest first', async () => {
    const { user, coupon } = shown('gap')
    const gaps = screen.getByRole('textbox', { name: 'Gaps, mm' })
    await user.clear(gaps)
    await user.type(gaps, '0.3; 0.1, 0.1 0.2')
    expect(coupon().gapsMm).toEqual([0.1, 0.2, 0.3])
    // Something else between them: a comma is a point.
    for (const text of ['0,3 0,1 0,2', '0,1; 0,2; 0,3', '0,1, 0,2, 0,3', '0.1,0.2,0.3', '0.1,0.2 0.3']) {
      await user.clear(gaps)
      await user.type(gaps, text)
      expect(coupon().gapsMm).toEqual([0.1, 0.2, 0.3])
    }
    await user.clear(gaps)
    await user.type(gaps, '1,2,3')
    expect(coupon().gapsMm).toEqual([1, 2, 3])
  })

  test('angles typed from the bed are kept from vertical', async () => {
    const { user, coupon } = shown('fan')
    await user.click(screen.getByRole('radio', { name: 'from bed' }))
    const angles = screen.getByRole('textbox', { name: 'Angles from the bed, °' })
    await user.clear(angles)
    await user.type(angles, '30 40')
    expect(coupon().anglesDeg).toEqual([50, 60])
  })
})
