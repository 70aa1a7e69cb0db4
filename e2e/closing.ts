import type { FullConfig, Reporter, Suite } from '@playwright/test/reporter'

/** Ends the run with one plain line: how many tests passed and failed. */
export default class Closing implements Reporter {
  private suite?: Suite

  onBegin(_: FullConfig, suite: Suite) {
    this.suite = suite
  }

  onEnd() {
    const outcomes = (this.suite?.allTests() ?? []).map((t) => t.outcome())
    const passed = outcomes.filter((o) => o === 'expected' || o === 'flaky').length
    console.log(`${passed} passed, ${outcomes.length - passed} failed`)
  }
}
