import type { FullResult, Reporter, TestCase, TestResult } from '@playwright/test/reporter'

/** Ends the run with one plain line: how many tests passed and failed. */
export default class Closing implements Reporter {
  private passed = 0
  private failed = 0

  onTestEnd(_: TestCase, result: TestResult) {
    if (result.status === 'passed') this.passed++
    else this.failed++
  }

  onEnd(_: FullResult) {
    console.log(`${this.passed} passed, ${this.failed} failed`)
  }
}
