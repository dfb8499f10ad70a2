import { Browser } from './browser';
const base = 'http://127.0.0.1:4780';
const [name, email, path, w = '1280', h = '800', dark = ''] = process.argv.slice(2);
const browser = await Browser.open({ width: Number(w), height: Number(h) });
await browser.signIn(base, `${email}@saltmarrow.example`, 'high water at saltmarrow');
if (dark) await browser.driver.manage().addCookie({ name: 'embrin-scheme', value: 'dark' });
await browser.goTo(`${base}${path}`);
await browser.until('main', async () => (await browser.text()).length > 60);
for (const step of process.argv.slice(8)) {
  const [role, n] = step.split('=');
  await browser.click(role ?? '', n ?? '');
}
await new Promise((r) => setTimeout(r, 4500));
await browser.picture(`/tmp/${name}.png`);
await browser.close();
