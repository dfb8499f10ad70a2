import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Builder, By, Key, until, type WebDriver, type WebElement } from 'selenium-webdriver';
import chrome from 'selenium-webdriver/chrome';

/** Long enough for a machine that has other things to do; what is there sooner is waited for no longer. */
const waitMs = 60_000;

/** A real Chromium with one page, spoken to by role and name as a person would. */
export class Browser {
  readonly driver: WebDriver;
  readonly #profile: string;

  private constructor(driver: WebDriver, profile: string) {
    this.driver = driver;
    this.#profile = profile;
  }

  static async open(size = { width: 1280, height: 800 }): Promise<Browser> {
    process.env['SE_OFFLINE'] = 'true';
    const profile = await mkdtemp(path.join(tmpdir(), 'embrin-chromium-'));
    const options = new chrome.Options();
    options.setChromeBinaryPath('/usr/bin/chromium');
    options.addArguments(
      '--headless=new',
      '--no-sandbox',
      '--disable-dev-shm-usage',
      '--disable-gpu',
      '--hide-scrollbars',
      '--force-device-scale-factor=1',
      '--disable-background-networking',
      '--disable-component-update',
      '--no-first-run',
      '--disable-sync',
      '--password-store=basic',
      `--window-size=${size.width},${size.height}`,
      `--user-data-dir=${profile}`,
    );
    const driver = await new Builder()
      .forBrowser('chrome')
      .setChromeOptions(options)
      .setChromeService(new chrome.ServiceBuilder('/usr/bin/chromedriver'))
      .build();
    // Scripts that scroll from top to bottom take as long as the machine takes.
    await driver.manage().setTimeouts({ script: 3 * waitMs });
    const browser = new Browser(driver, profile);
    await browser.resize(size);
    return browser;
  }

  /** Sets the page's size; a window's own borders do not count. */
  async resize({ width, height }: { width: number; height: number }): Promise<void> {
    await this.cdp('Emulation.setDeviceMetricsOverride', { width, height, deviceScaleFactor: 1, mobile: false });
  }

  /** Sends a command of the Chrome DevTools protocol. */
  async cdp(command: string, parameters: object): Promise<unknown> {
    const { driver } = this;
    if (!('sendAndGetDevToolsCommand' in driver) || typeof driver.sendAndGetDevToolsCommand !== 'function') {
      throw new Error('This driver speaks no DevTools protocol');
    }
    return driver.sendAndGetDevToolsCommand(command, parameters);
  }

  /** Lets every answer come later by so many milliseconds, with so many bytes a second; 0 and -1: as fast as it comes. */
  async slowNetwork(latency: number, bytesPerSecond = -1): Promise<void> {
    await this.cdp('Network.enable', {});
    await this.cdp('Network.emulateNetworkConditions', {
      offline: false,
      latency,
      downloadThroughput: bytesPerSecond,
      uploadThroughput: -1,
    });
  }

  /** Lets the page compute so many times slower; 1: as fast as it can. */
  async slowProcessor(rate: number): Promise<void> {
    await this.cdp('Emulation.setCPUThrottlingRate', { rate });
  }

  async close(): Promise<void> {
    await this.driver.quit();
    await rm(this.#profile, { recursive: true, force: true });
  }

  /** Opens a page, and waits until it reacts to presses; what is no page of the product is there at once. */
  async goTo(address: string): Promise<void> {
    await this.driver.get(address);
    await this.#reacts();
  }

  /** Opens the page that is shown once more. */
  async again(): Promise<void> {
    await this.driver.navigate().refresh();
    await this.#reacts();
  }

  async #reacts(): Promise<void> {
    await this.until('the page to react', () => this.driver.executeScript<boolean>(reacts));
  }

  /** Elements with a role whose accessible name holds a text, as the browser's own accessibility tree has them. */
  async all(role: string, name: string | RegExp, within?: WebElement): Promise<WebElement[]> {
    const candidates = await this.driver.executeScript<WebElement[]>(
      likelyNamed,
      within ?? null,
      roleSelectors[role] ?? `[role="${role}"]`,
      typeof name === 'string' ? name : name.source,
      typeof name === 'string' ? null : name.flags,
    );
    const found: WebElement[] = [];
    for (const each of candidates) {
      try {
        const label = await each.getAccessibleName();
        if (typeof name === 'string' ? label === name : name.test(label)) found.push(each);
      } catch {
        // Gone between being found and being asked: not there.
      }
    }
    return found;
  }

  /** The first such element, waited for. */
  async get(role: string, name: string | RegExp, within?: WebElement): Promise<WebElement> {
    return this.until(`${role} ${String(name)}`, async () => (await this.all(role, name, within))[0] ?? null);
  }

  async click(role: string, name: string | RegExp, within?: WebElement): Promise<void> {
    await this.until(`clicking ${role} ${String(name)}`, async () => {
      const [element] = await this.all(role, name, within);
      if (!element || !(await element.isEnabled())) return null;
      try {
        await element.click();
        return true;
      } catch {
        return null;
      }
    });
  }

  /** Waits until a look gives something; says what it waited for if it never does. */
  async until<T>(what: string, look: () => Promise<T | null | false>): Promise<T> {
    let last: unknown;
    const found = await this.driver
      .wait(async () => {
        try {
          const seen = await look();
          return seen === null || seen === false ? null : { seen };
        } catch (error) {
          last = error;
          return null;
        }
      }, waitMs)
      .catch(async () => {
        const page = await this.text().catch(() => '');
        throw new Error(
          `Waited in vain for ${what}${last instanceof Error ? ` (${last.message.slice(0, 200)})` : ''}. The page reads: ${page.slice(-1500)}`,
        );
      });
    if (found === null) throw new Error(`Waited in vain for ${what}`);
    return found.seen;
  }

  /** All the text on the page, as it is shown. */
  async text(): Promise<string> {
    return this.driver.executeScript<string>('return document.body.innerText');
  }

  async seesText(text: string | RegExp): Promise<void> {
    await this.until(`the text ${String(text)}`, async () => {
      const page = await this.text();
      return typeof text === 'string' ? page.includes(text) : text.test(page);
    });
  }

  /** Types into a field found by its label, in place of what it holds. */
  async fill(name: string | RegExp, text: string): Promise<void> {
    const field = await this.get('textbox', name);
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), text === '' ? Key.DELETE : text);
  }

  /** Presses Undo in the notice that says something; those of earlier acts may still be there. */
  async undo(says: string): Promise<void> {
    const notice = await this.until(`the notice ${says}`, async () => {
      for (const each of await this.driver.findElements(By.css('[data-sonner-toast]')))
        if ((await each.getText()).includes(says)) return each;
      return null;
    });
    await this.click('button', 'Undo', notice);
  }

  /** Chooses from a list by the beginning of a choice's words, once it is offered. */
  async select(name: string, option: string): Promise<void> {
    const list = await this.until(`${option} in ${name}`, async () => {
      const [found] = await this.all('combobox', name);
      if (!found) return null;
      const offered = await this.driver.executeScript<string[]>(offeredIn, found);
      return offered.some((each) => each.startsWith(option)) && found;
    });
    await list.sendKeys(option);
  }

  /** Presses keys on whatever has the focus. */
  async press(...keys: string[]): Promise<void> {
    await this.driver
      .actions()
      .sendKeys(...keys)
      .perform();
  }

  /** Presses keys together on whatever has the focus: `chord(Key.ALT, Key.ARROW_UP)`. */
  async chord(...keys: string[]): Promise<void> {
    await this.driver
      .switchTo()
      .activeElement()
      .sendKeys(Key.chord(...keys));
  }

  async path(): Promise<string> {
    return new URL(await this.driver.getCurrentUrl()).pathname;
  }

  /** Drops files and folders on an element the way the computer's own file manager does. */
  async dropFiles(onto: WebElement, files: readonly string[]): Promise<void> {
    const box = await onto.getRect();
    const at = { x: Math.round(box.x + box.width / 2), y: Math.round(box.y + Math.min(box.height / 2, 200)) };
    const data = { items: [], files, dragOperationsMask: 1 };
    for (const type of ['dragEnter', 'dragOver', 'drop'])
      await this.cdp('Input.dispatchDragEvent', { type, ...at, data });
  }

  /** Has the docket stay where nothing is chosen. */
  async showDocket(): Promise<void> {
    await this.until('the docket', async () => {
      const [folded] = await this.all('button', 'Show the docket');
      await folded?.click();
      return (
        (await this.all('button', 'Show the docket')).length === 0 && (await this.all('region', 'Docket')).length > 0
      );
    });
  }

  /** Waits until fonts, pictures and questions to the server have come to rest. */
  async settled(): Promise<void> {
    await this.driver.executeAsyncScript(`
      const done = arguments[arguments.length - 1];
      const pictures = [...document.images].map((image) => image.decode().catch(() => undefined));
      const rest = () => new Promise((calm) => requestIdleCallback(() => requestAnimationFrame(() => calm()), { timeout: 2000 }));
      document.fonts.ready.then(() => Promise.all(pictures)).then(rest).then(rest).then(() => done());`);
    await this.until(
      'the page to come to rest',
      async () => (await this.driver.findElements(By.css('[aria-busy]'))).length === 0,
    );
  }

  /** A picture of the page as it stands. */
  async picture(file: string): Promise<void> {
    await writeFile(file, Buffer.from(await this.driver.takeScreenshot(), 'base64'));
  }

  async signIn(base: string, email: string, password: string): Promise<void> {
    await this.driver.manage().deleteAllCookies();
    await this.goTo(`${base}/sign-in`);
    await this.fill('E-mail address', email);
    await this.fill('Password', password);
    await this.click('button', 'Sign in');
    await this.driver.wait(until.urlContains('/desk'), waitMs);
  }
}

/** Where a role also comes from an element itself. */
const roleSelectors: Readonly<Record<string, string>> = {
  button: 'button,[role="button"]',
  link: 'a[href]',
  textbox: 'input:not([type="checkbox"]):not([type="radio"]):not([type="file"]),textarea, [role="textbox"]',
  checkbox: 'input[type="checkbox"],[role="checkbox"]',
  radio: 'input[type="radio"]',
  heading: 'h1,h2,h3',
  combobox: 'select,[role="combobox"]',
  dialog: '[role="dialog"]',
  region: 'section,[role="region"],aside,nav',
  listitem: 'li',
  row: '[role="row"]',
};

/** Runs in the page: the elements in sight whose name could be the wanted one, so that only these are asked for their accessible name. */
const likelyNamed = `
  const [within, selector, name, flags] = arguments;
  const wanted = flags === null ? null : new RegExp(name, flags);
  const squeeze = (text) => (text ?? '').replace(/\\s+/g, ' ').trim();
  return [...(within ?? document).querySelectorAll(selector)].filter((each) => {
    if (!each.checkVisibility({ opacityProperty: true, visibilityProperty: true })) return false;
    const labels = [...(each.labels ?? [])].map((label) => label.textContent);
    const by = (each.getAttribute('aria-labelledby') ?? '').split(' ').map((id) => document.getElementById(id)?.textContent);
    const could = [each.textContent, each.getAttribute('aria-label'), each.title, each.placeholder, ...labels, ...by].map(squeeze);
    return could.some((text) => text !== '' && (wanted ? wanted.test(text) : text.includes(squeeze(name))));
  });`;

const reacts =
  'return document.documentElement.dataset.reacts !== undefined || document.querySelector(\'script[src*="/_next/"]\') === null;';

const offeredIn = 'return [...arguments[0].options].map((each) => each.text)';
