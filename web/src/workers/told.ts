import { useSyncExternalStore } from 'react'

/** A value that changes many times a second: only who shows it is drawn again, not the page around it. */
export class Told<T> {
  private readonly heard = new Set<() => void>()

  constructor(private value: T) {}

  readonly now = (): T => this.value

  tell(value: T): void {
    this.value = value
    for (const hear of this.heard) hear()
  }

  readonly hear = (hear: () => void): (() => void) => {
    this.heard.add(hear)
    return () => void this.heard.delete(hear)
  }
}

export const useTold = <T>({ hear, now }: Told<T>): T => useSyncExternalStore(hear, now)
