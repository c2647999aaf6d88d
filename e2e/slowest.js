/** Says which stories took longest. */
export default class Slowest {
  stories = []

  onTestEnd(test, result) {
    this.stories.push({ seconds: result.duration / 1000, title: test.titlePath().filter(Boolean).slice(-2).join(' › ') })
  }

  onEnd() {
    const longest = this.stories.toSorted((a, b) => b.seconds - a.seconds).slice(0, 8)
    console.log('\nWhat took longest:')
    for (const s of longest) console.log(`${s.seconds.toFixed(1).padStart(7)} s  ${s.title}`)
  }
}
