// Opens a report in a real browser: nothing of the content runs, nothing serious speaks against it for people who use it without a mouse or
// a screen, the filter finds things, and a link opens what it names. Usage: node look.mjs FILE
import { readFileSync } from 'node:fs'
import { chromium } from 'playwright-core'

const url = 'file://' + process.argv[2]
const wrong = []
let asked = 0
const is = (what, found, expected) => {
  asked++
  if (JSON.stringify(found) !== JSON.stringify(expected)) wrong.push(`${what}: ${JSON.stringify(found)}, expected ${JSON.stringify(expected)}`)
}
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM,
  args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
})
const axe = readFileSync('node_modules/axe-core/axe.min.js', 'utf8')
for (const [colorScheme, width] of [['light', 1280], ['dark', 1280], ['light', 390]]) {
  const context = await browser.newContext({ colorScheme, viewport: { width, height: 800 }, bypassCSP: true })
  const page = await context.newPage()
  await page.goto(url)
  await page.evaluate(() => document.querySelectorAll('details').forEach((each) => (each.open = true)))
  await page.addScriptTag({ content: axe })
  const { violations } = await page.evaluate(() => axe.run())
  is(`serious findings, ${colorScheme} ${width}`, violations.filter((v) => ['serious', 'critical'].includes(v.impact)).map((v) => `${v.id}: ${v.nodes[0].html.slice(0, 120)}`), [])
  is(`wider than the screen, ${width}`, await page.evaluate(() => document.documentElement.scrollWidth > innerWidth), false)
  await context.close()
}

const page = await browser.newPage()
const heard = []
page.on('console', (message) => heard.push(message.text()))
page.on('pageerror', (error) => heard.push(error.message))
page.on('dialog', (dialog) => { heard.push('dialog ' + dialog.message()); dialog.dismiss() })
page.on('request', (request) => request.url().startsWith('file:') || heard.push('asks for ' + request.url()))
await page.goto(url)
const all = await page.locator('.thing').count()
is('content that is a script is text', await page.locator('.thing', { hasText: "<script>alert('ferry')</script>" }).count(), 1)
is('pictures', await page.locator('img').count(), 0)
await page.fill('#filter', 'harbour brae')
is('found', await page.textContent('#found'), `1 of ${all} shown`)
is('things that are shown', await page.locator('.thing:visible').count(), 1)
await page.fill('#filter', '')
const last = await page.locator('.thing').last().getAttribute('id')
await page.goto(`${url}#${last}`)
is('what a link names is open', await page.locator(`#${last} details`).evaluate((each) => each.open), true)
is('heard', heard, [])
await browser.close()

console.log(`checks/report: ${asked} looks at the page, ${wrong.length} wrong`)
wrong.forEach((line) => console.error('  ' + line))
process.exit(wrong.length ? 1 : 0)
