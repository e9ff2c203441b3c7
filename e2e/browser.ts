import { mkdir, writeFile } from "node:fs/promises";
import { Builder, By, error, Key, logging, until, type WebDriver, type WebElement } from "selenium-webdriver";
import chrome from "selenium-webdriver/chrome.js";

export { By, Key } from "selenium-webdriver";

const PATIENCE = 40_000;
/** How long between two looks, in milliseconds. */
const POLL = 60;

/** What may be called so, found in one go: asking the browser for the name of each control takes a second on a full page. */
const CANDIDATES = `
  const [css, name] = arguments;
  const bare = (text) => (text ?? "").replace(/\\s+/g, "");
  const wanted = bare(name);
  const said = (it) => [
    it.getAttribute("aria-label"), it.title, it.placeholder, it.alt, it.value, it.textContent,
    ...[...(it.labels ?? [])].map((label) => label.textContent),
    ...(it.getAttribute("aria-labelledby") ?? "").split(/\\s+/).map((id) => document.getElementById(id)?.textContent),
    ...[...it.querySelectorAll("[aria-label], [alt], title")].map((part) => part.getAttribute("aria-label") ?? part.alt ?? part.textContent),
  ].map((text) => bare(typeof text === "string" ? text : "")).filter((text) => text !== "");
  return [...document.querySelectorAll(css)].filter(
    (it) => it.checkVisibility({ visibilityProperty: true }) && said(it).some((text) => text.includes(wanted) || wanted.includes(text)),
  );`;

/** The words of an element in a script of the page, those in frames on the canvas where the frames stand. */
const WORDS_OF = `const wordsOf = (element) => {
  const copies = [...element.querySelectorAll('iframe')].map((frame) => {
    const copy = document.createElement('div');
    copy.textContent = frame.contentDocument?.body?.innerText ?? '';
    copy.style.whiteSpace = 'pre-line';
    frame.after(copy);
    return copy;
  });
  const words = element.innerText;
  for (const copy of copies) copy.remove();
  return words;
};`;

/** A page of the program, driven as a user would: by labels, roles and words. */
export class Page {
  constructor(
    readonly driver: WebDriver,
    readonly address: string,
  ) {}

  /** Opens an address; a page of the program is there once its scripts have taken hold of it. */
  async open(path: string): Promise<void> {
    await this.driver.get(this.address + path);
    await this.runs(path);
  }

  async reload(): Promise<void> {
    await this.driver.navigate().refresh();
    await this.runs("the page");
  }

  /** Waits until the page does what is done on it: before its scripts run, what is written may be lost. */
  private async runs(path: string): Promise<void> {
    await this.until(
      () =>
        this.run<boolean>(
          `return !("__reactRouterContext" in window) ||
             Object.keys(document.body).some((key) => key.startsWith("__reactFiber"));`,
        ),
      `the scripts of ${path} do not run`,
    );
  }

  /** The element, once it is there and can be seen. */
  async find(css: string): Promise<WebElement> {
    return this.driver.wait(
      async () => {
        const [element] = await this.driver.findElements(By.css(css));
        return element && (await element.isDisplayed().catch(() => false)) ? element : null;
      },
      PATIENCE,
      `nothing that can be seen matches ${css}`,
      POLL,
    ) as Promise<WebElement>;
  }

  /** The control with that accessible name: a button, link, field or tab. */
  async named(
    name: string,
    css = "button, a, input, select, textarea, [role=tab], [role=textbox], [role=menuitem], summary",
  ): Promise<WebElement> {
    return this.driver.wait(
      async () => {
        for (const element of await this.run<WebElement[]>(CANDIDATES, css, name)) {
          try {
            if ((await element.isDisplayed()) && (await element.getAccessibleName()) === name) return element;
          } catch {
            // It went away while it was looked at: look again.
          }
        }
        return null;
      },
      PATIENCE,
      `no control is called “${name}”`,
      POLL,
    ) as Promise<WebElement>;
  }

  /** Presses a control, once it can be pressed. */
  press(name: string): Promise<void> {
    return this.pressed(() => this.named(name), `“${name}”`);
  }

  /** Clicks the first element that matches, once it can be pressed. */
  click(css: string): Promise<void> {
    return this.pressed(() => this.find(css), css);
  }

  /** Clicks what is found, once it can be pressed; what is drawn anew between finding and pressing is found again. */
  private async pressed(find: () => Promise<WebElement>, what: string): Promise<void> {
    for (;;) {
      try {
        const element = await find();
        await this.driver.wait(until.elementIsEnabled(element), PATIENCE, `${what} cannot be pressed`, POLL);
        await this.driver.executeScript("arguments[0].scrollIntoView({block: 'center'})", element);
        return await element.click();
      } catch (thrown) {
        if (!(thrown instanceof error.StaleElementReferenceError)) throw thrown;
      }
    }
  }

  /** Writes over what a field says, as a hand does: what WebDriver clears, a page may put back when it draws anew. */
  async fill(name: string, text: string): Promise<void> {
    const element = await this.named(name);
    await element.sendKeys(Key.chord(Key.CONTROL, "a"), text === "" ? Key.BACK_SPACE : text);
  }

  /** Chooses an entry of a list that opens, by its words. */
  async choose(name: string, option: string): Promise<void> {
    const control = await this.named(name, "[role=combobox]");
    await this.driver.executeScript("arguments[0].scrollIntoView({block: 'center'})", control);
    await control.click();
    await this.until(async () => {
      for (const element of await this.driver.findElements(By.css("[role=listbox] [role=option]"))) {
        if (!(await element.getText()).trim().startsWith(option)) continue;
        await element.click();
        return true;
      }
      return false;
    }, `“${name}” has no option “${option}”`);
  }

  /** Waits until the page's words hold the text. */
  async sees(text: string, css = "body"): Promise<void> {
    await this.until(async () => (await this.words(css)).includes(text), `the page does not say “${text}”`);
  }

  async words(css = "body"): Promise<string> {
    return this.driver.executeScript<string>(
      "return [...document.querySelectorAll(arguments[0])].map(e => e.innerText).join('\\n')",
      css,
    );
  }

  /** Waits for a condition; a look that fails because the page is changing counts as no. */
  async until(condition: () => Promise<boolean>, message: string, patience = PATIENCE): Promise<void> {
    await this.driver.wait(() => condition().catch(() => false), patience, message, POLL);
  }

  /** Runs a script in the page and gives back what it returns. */
  run<T>(script: string, ...values: unknown[]): Promise<T> {
    return this.driver.executeScript<T>(script, ...values);
  }

  /** The words on the canvas. */
  canvasWords(): Promise<string> {
    return this.run<string>(
      `${WORDS_OF} return wordsOf(document.querySelector('[data-testid=canvas]').shadowRoot.querySelector('.canvas'))`,
    );
  }

  /** The centre of a block on the canvas that holds the words, in the window's px, once pictures have settled. */
  async onCanvas(words: string): Promise<{ x: number; y: number }> {
    let last = "";
    let at: { x: number; y: number } | null = null;
    await this.until(async () => {
      at = await this.run(
        `${WORDS_OF} const root = document.querySelector('[data-testid=canvas]').shadowRoot;
           if ([...root.querySelectorAll('img')].some(e => !e.complete)) return null;
           const found = [...root.querySelectorAll('[data-kind=block]')].find(e => wordsOf(e).includes(arguments[0]));
           if (!found) return null;
           found.scrollIntoView({block: 'center'});
           const r = found.getBoundingClientRect();
           return {x: Math.round(r.x + r.width / 2), y: Math.round(r.y + r.height / 2)};`,
        words,
      );
      const now = JSON.stringify(at);
      const settled = at !== null && now === last;
      last = now;
      return settled;
    }, `the canvas shows no block with “${words}”`);
    return at!;
  }

  /** Whether words on the canvas are being written. */
  inEditor(): Promise<boolean> {
    return this.run<boolean>(
      "return !!document.querySelector('[data-testid=canvas]').shadowRoot.activeElement?.classList.contains('ProseMirror')",
    );
  }

  /** Puts the cursor into the block on the canvas that holds the words. */
  async write(words: string): Promise<void> {
    await this.clickAt(await this.onCanvas(words));
    await this.clickAt(await this.onCanvas(words));
    await this.until(() => this.inEditor(), `“${words}” cannot be written in`);
  }

  async clickAt({ x, y }: { x: number; y: number }): Promise<void> {
    await this.driver
      .actions()
      .move({ x: Math.round(x), y: Math.round(y) })
      .click()
      .perform();
  }

  /** A real drag with the pointer, in steps as a hand does it. */
  async drag(
    from: { x: number; y: number },
    to: { x: number; y: number },
    during?: () => Promise<void>,
  ): Promise<void> {
    const pointer = this.driver.actions({ async: true });
    await pointer
      .move({ ...from })
      .press()
      .move({ x: from.x + 5, y: from.y + 5, duration: 60 })
      .move({ x: from.x + 12, y: from.y + 8, duration: 60 })
      .perform();
    await this.driver
      .actions({ async: true })
      .move({ x: Math.round(to.x), y: Math.round(to.y), duration: 250 })
      .perform();
    await this.driver
      .actions({ async: true })
      .move({ x: Math.round(to.x) + 1, y: Math.round(to.y), duration: 50 })
      .perform();
    await during?.();
    await this.driver.actions({ async: true }).release().perform();
  }

  /** Types `@` and the name of reader data at the cursor, and takes it from the menu there. */
  async typeTag(words: string, label: string): Promise<void> {
    // The editor comes a moment after it was asked for; what is typed before it is there goes nowhere.
    await this.until(
      () =>
        this.run<boolean>(
          "let e = document.activeElement; while (e?.shadowRoot?.activeElement) e = e.shadowRoot.activeElement; return e?.isContentEditable === true",
        ),
      "no words are being written",
    );
    await this.keys(`${words}@`);
    await this.sees(label, "[role=listbox]");
    await this.keys(label.slice(0, 5).toLowerCase());
    await this.until(
      async () => (await this.words("[role=listbox] [aria-selected=true]")).startsWith(label),
      `“${label}” is not chosen`,
    );
    await this.keys(Key.ENTER);
    await this.until(async () => (await this.words("[role=listbox]")) === "", "the menu stayed");
  }

  async centre(element: WebElement): Promise<{ x: number; y: number }> {
    const { x, y, width, height } = await element.getRect();
    return { x: Math.round(x + width / 2), y: Math.round(y + height / 2) };
  }

  /** Presses a key while others, a modifier, are held. */
  async chord(modifier: string, key: string): Promise<void> {
    await this.driver.actions().keyDown(modifier).sendKeys(key).keyUp(modifier).perform();
  }

  async keys(...keys: string[]): Promise<void> {
    await this.driver
      .actions()
      .sendKeys(...keys)
      .perform();
  }

  async saved(): Promise<void> {
    await this.until(
      async () => (await this.words("[data-testid=saving]")).startsWith("Saved"),
      "the design was not saved",
    );
  }
}

/** Debian's Chromium, without a window. */
export async function openBrowser(
  address: string,
  size = { width: 1280, height: 800 },
  more: readonly string[] = [],
): Promise<Page> {
  const options = new chrome.Options();
  options.setChromeBinaryPath("/usr/bin/chromium");
  options.addArguments(
    "--headless=new",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--lang=en-GB",
    `--window-size=${size.width},${size.height}`,
    ...more,
  );
  const said = new logging.Preferences();
  said.setLevel(logging.Type.BROWSER, logging.Level.WARNING);
  options.setLoggingPrefs(said);
  const driver = await new Builder()
    .forBrowser("chrome")
    .setChromeService(new chrome.ServiceBuilder("/usr/bin/chromedriver"))
    .setChromeOptions(options)
    .build();
  await driver.manage().setTimeouts({ script: 30_000 });
  const outer = await driver.executeScript<{ w: number; h: number }>(
    "return {w: outerWidth - innerWidth, h: outerHeight - innerHeight}",
  );
  await driver
    .manage()
    .window()
    .setRect({ width: size.width + outer.w, height: size.height + outer.h });
  return new Page(driver, address);
}

/**
 * What a console says of what a test provokes: a refusal, a server that is away, and what an email in its frame is kept
 * from fetching.
 */
const PROVOKED =
  /Failed to load resource|net::ERR_|Failed to fetch manifest patches|^about:srcdoc (?:-|[\d:]+) .*Content Security Policy/;

/**
 * For `afterEach`: fails a test during which a page threw or wrote an error to its console; of one that has failed, keeps
 * a picture of the page and what its console said.
 */
export async function keepFailure(
  page: Page | undefined,
  task: { name: string; result?: { state?: string } },
): Promise<void> {
  if (!page) return;
  const said = await page.driver.manage().logs().get("browser");
  const errors = said.filter(({ level, message }) => level.name === "SEVERE" && !PROVOKED.test(message));
  if (task.result?.state === "fail" || errors.length > 0) await keep(page, task.name, said);
  if (task.result?.state !== "fail" && errors.length > 0)
    throw new Error(`The page has errors:\n${errors.map(({ message }) => message).join("\n")}`);
}

async function keep(page: Page, test: string, said: readonly logging.Entry[]): Promise<void> {
  await mkdir(".test-results", { recursive: true });
  const name = test
    .toLowerCase()
    .replace(/[^a-z]+/g, "-")
    .slice(0, 60);
  await writeFile(`.test-results/${name}.png`, Buffer.from(await page.driver.takeScreenshot(), "base64"));
  await writeFile(
    `.test-results/${name}.log`,
    said.map((entry) => `${entry.level.name} ${entry.message}`).join("\n"),
  );
}
