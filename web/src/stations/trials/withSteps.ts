import type { TrialInput } from '@tender/contract'

/** The coupon with other steps along its rows. */
export function withSteps(coupon: TrialInput['coupon'], given: readonly number[]): TrialInput['coupon'] {
  const values = [...given]
  switch (coupon.kind) {
    case 'fan':
      return { ...coupon, anglesDeg: values }
    case 'span':
      return { ...coupon, spansMm: values }
    case 'gap':
      return { ...coupon, gapsMm: values }
    case 'purge':
      return { ...coupon, volumesMm3: values }
    case 'offset':
      return { ...coupon, shiftsMm: values }
  }
}
