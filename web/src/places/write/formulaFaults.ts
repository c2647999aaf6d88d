/** What the reader of TeX says, and how a person is told. The first that fits counts; $1 and $2 are from the pattern. */
const faults: [RegExp, string][] = [
  [/^Undefined control sequence: (\\.+)/, '$1 is not a command that formulas know. Check its spelling.'],
  [
    /^(?:Unsupported function name|No function handler for):? (\\?.+)/,
    '$1 is not a command that formulas know. Check its spelling.',
  ],
  [/^Unexpected end of input.*expected '\]'/, 'A closing ] is missing.'],
  [/^Cannot read properties/, 'Something is missing at the end: what belongs after ^ or _.'],
  [/^(\\\w+) valid only within array/, '$1 stands in tables only, within \\begin{array}.'],
  [/^Expected 'EOF', got '\\end'/, 'There is an \\end without its \\begin.'],
  [/^Expected '(?:EOF|\\right)', got '}'|^Extra }/, 'There is a } too many.'],
  [/^Expected '}', got|^Expected '}'|^Unexpected end of input/, 'A closing } is missing.'],
  [/^Expected '\]', got/, 'A closing ] is missing.'],
  [/^Double superscript/, 'Two ^ follow each other. Put braces { } around what belongs together.'],
  [/^Double subscript/, 'Two _ follow each other. Put braces { } around what belongs together.'],
  [/^Expected group after '(.+?)'/, 'Something is missing after $1.'],
  [/^Expected group as (?:argument to )?'?(\\\w+)/, '$1 wants more than it has: fill in what is missing behind it.'],
  [/^Got function '(\\?.+?)' with no arguments/, 'Put braces { } around what begins with $1.'],
  [/^No such environment: (.+)/, 'There is no \\begin{$1} in formulas.'],
  [/^Mismatch: \\begin\{(.+?)\} matched by \\end\{(.+?)\}/, '\\begin{$1} is ended by \\end{$2}; both must have the same name.'],
  [/^Expected & or|^Expected \\\\ or/, 'A \\begin is not ended by its \\end.'],
  [
    /^Expected '\\right', got|^Unmatched delimiter|\\middle without preceding/,
    '\\left and \\right belong together, and one of them is missing.',
  ],
  [/^Expected 'EOF', got '(\\?right|\\right)'/, '\\left and \\right belong together, and one of them is missing.'],
  [/^Invalid delimiter '(.*?)'/, '$1 cannot stand as a bracket. Use ( ) [ ] \\{ \\} or |.'],
  [/^Expected 'EOF', got '(.+?)'/, '$1 cannot stand where it is.'],
  [/^Limit controls must follow/, '\\limits goes directly behind a sum or an integral.'],
  [
    /^(?:Can't use function|Accented Unicode|Unicode text character)\W+(.+?)['"]/,
    '$1 cannot stand in a formula here. Words go into \\text{ }.',
  ],
]

/** Why a formula cannot be read, in words that say what to do. */
export function formulaFault(said: string): string {
  const plain = said
    .trim()
    .replace(/^\w*Error: /, '')
    .trim()
    .replace(/ at (?:position \d+|end of input)[\s\S]*$/, '')
  for (const [pattern, words] of faults) {
    const found = pattern.exec(plain)
    if (found) return words.replace(/\$(\d)/g, (_, n: string) => (found[Number(n)] ?? '').replace(/[.':]+$/, ''))
  }
  return 'This formula cannot be read. Check that every { has its } and that the names after \\ are spelled right.'
}
