/** Goes to an element by Tab, which is pressed as often as it takes, and never for ever. */
export async function tabTo(page, locator) {
  for (let n = 0; n < 120; n++) {
    if (await locator.evaluate((e) => e === document.activeElement).catch(() => false)) return
    await page.keyboard.press('Tab')
  }
  throw new Error('Tab does not reach it')
}

/** Presses a button that Tab leads to. */
export async function pressBy(page, locator, key = 'Enter') {
  await tabTo(page, locator)
  await page.keyboard.press(key)
}
