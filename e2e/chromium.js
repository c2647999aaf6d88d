/** How Debian's headless Chromium is started: nothing is drawn by a graphics card. */
export const launch = { executablePath: '/usr/bin/chromium-headless-shell', args: ['--disable-gpu'] }
