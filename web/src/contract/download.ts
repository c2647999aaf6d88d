/** Hands a file that was asked for to the browser, so that a person finds it among what they downloaded. */
export function download(file: Blob, name: string) {
  const a = document.createElement('a')
  a.href = URL.createObjectURL(file)
  a.download = name
  a.click()
  setTimeout(() => URL.revokeObjectURL(a.href), 60_000)
}
