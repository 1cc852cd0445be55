import { ApiError } from '../api/client'

const AGAIN_MS = 3_000

/** What a line tells of itself. */
export type Told<Stored> = {
  /** Text of what the server has last taken. */
  readonly savedText?: string
  readonly problem?: string | null
  /** The thing as somebody else left it, when that stands against a save. */
  readonly conflict?: Stored | null
}

type Wanted<Value> = { readonly value: Value; readonly text: string }

/**
 * Saves one thing again and again, never two saves at once: a change made during a save waits for it, and
 * starts from the revision that it gave. While the server is silent the newest is tried again; where somebody
 * else has changed the thing, nothing is saved until told.
 */
export class SaveLine<Value, Stored extends { readonly revision: number }> {
  private wanted: Wanted<Value> | null = null
  private busy = false
  private stands = false
  private timer: ReturnType<typeof setTimeout> | undefined

  constructor(
    private revision: number,
    private readonly send: (value: Value, revision: number) => Promise<Stored>,
    /** What of a refusal's `current` is the thing as it stands. */
    private readonly theirs: (current: unknown) => Stored | null,
    private readonly tell: (told: Told<Stored>, stored?: Stored) => void,
    /** Whether what stands there is something that somebody changed; what is not is saved over. */
    private readonly isChange: (current: Stored) => boolean = () => true,
  ) {}

  /** Saves this once nothing else was wanted for so long. */
  want(value: Value, text: string, afterMs: number): void {
    if (this.stands) return
    this.wanted = { value, text }
    this.again(afterMs)
  }

  /** Waits: what was wanted is not meant any more, or not yet. */
  hold(): void {
    clearTimeout(this.timer)
    this.wanted = null
  }

  /** Saves at once, or as soon as the save under way has ended. */
  leave(value: Value, text: string): void {
    if (this.stands) return
    this.wanted = { value, text }
    void this.next()
  }

  /** Goes on from what somebody else left. */
  goOnFrom(stored: Stored): void {
    this.revision = stored.revision
    this.stands = false
    this.hold()
  }

  private again(afterMs: number): void {
    clearTimeout(this.timer)
    this.timer = setTimeout(() => void this.next(), afterMs)
  }

  private async next(): Promise<void> {
    clearTimeout(this.timer)
    const one = this.wanted
    if (this.busy || this.stands || !one) return
    this.wanted = null
    this.busy = true
    try {
      const stored = await this.send(one.value, this.revision)
      this.revision = stored.revision
      this.tell({ savedText: one.text, problem: null }, stored)
    } catch (error) {
      const known = error instanceof ApiError ? error.problem : null
      const current = known?.code === 'STALE' ? this.theirs(known.current) : null
      if (current && !this.isChange(current)) {
        this.revision = current.revision
        this.wanted ??= one
      } else if (current) {
        this.stands = true
        this.tell({ conflict: current, problem: null })
      } else {
        this.tell({ problem: (error as Error).message })
        if (known?.code === 'OFFLINE') {
          this.wanted ??= one
          this.busy = false
          return this.again(AGAIN_MS)
        }
      }
    }
    this.busy = false
    if (this.wanted) void this.next()
  }
}
