import { chromium } from 'playwright-core';

const [, , ...jobs] = process.argv;
const b = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
for (const job of jobs) {
  const [url, file, size = '1280x800', opts = ''] = job.split('|');
  const [width, height] = size.split('x').map(Number);
  const c = await b.newContext({
    viewport: { width, height },
    colorScheme: opts.includes('dark') ? 'dark' : 'light',
    javaScriptEnabled: !opts.includes('nojs'),
  });
  const p = await c.newPage();
  if (opts.includes('staff')) {
    await p.goto('http://localhost:3111/sign-in');
    await p.getByLabel('E-mail').fill('esme@tern.example');
    await p.getByLabel('Password').fill('low-water');
    await p.getByRole('button', { name: 'Sign in' }).click();
    await p.waitForURL('**/');
  }
  if (opts.includes('early')) {
    await c.addCookies([{ name: 'loom-client', value: '1', url: 'http://localhost:3111' }]);
    p.goto(url).catch(() => {});
    await p.waitForTimeout(700);
  } else await p.goto(url);
  if (opts.includes('bottom')) await p.evaluate(() => scrollTo(0, document.body.scrollHeight));
  await p.waitForTimeout(200);
  await p.screenshot({ path: file, fullPage: opts.includes('full') });
  await c.close();
}
await b.close();
