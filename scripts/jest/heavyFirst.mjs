// On a machine that never ran them tests are begun by the size of their files, and a short one that takes a
// minute would be begun last, with one core waiting for it.
import sequencer from '@jest/test-sequencer'

const HEAVY = /stand\/(scattered|stand)\.test|branching\/branching\.test|app\.test|cli\.test/

export default class HeavyFirst extends sequencer {
  sort(tests) {
    const sorted = super.sort(tests)
    const heavy = ({ path }) => (HEAVY.test(path) ? 0 : 1)
    return sorted.sort((a, b) => heavy(a) - heavy(b))
  }
}
