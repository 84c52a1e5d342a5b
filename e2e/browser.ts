import { chromium, type Browser, type BrowserContext, type Page } from 'playwright-core';

export const DESK = { width: 1280, height: 800 };
export const PHONE = { width: 390, height: 844 };

let browser: Browser | null = null;

/** Debian's Chromium, started once. */
export async function openBrowser(): Promise<Browser> {
  browser ??= await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });
  return browser;
}

export async function closeBrowser(): Promise<void> {
  await browser?.close();
  browser = null;
}

export interface OpenPage {
  page: Page;
  context: BrowserContext;
  /** Errors of the console and of scripts so far. */
  errors: string[];
}

export interface PageOptions {
  theme?: 'day' | 'night';
  size?: typeof DESK;
  at?: { latitude: number; longitude: number };
  /** Let the page put itself on the device, to be opened without a server. */
  installed?: boolean;
  /** As on a device that was never used: no species is remembered. */
  fresh?: boolean;
  /** Say yes to a certificate that nobody vouches for. */
  anyCertificate?: boolean;
  /** What the device prefers. */
  language?: string;
}

/** A fresh page on the application. */
export async function openPage(
  url: string,
  { theme = 'day', size = DESK, at, installed = false, anyCertificate = false, fresh = false, language = 'en-GB' }: PageOptions = {},
): Promise<OpenPage> {
  const context = await (
    await openBrowser()
  ).newContext({
    viewport: size,
    locale: language,
    permissions: at ? ['geolocation'] : [],
    geolocation: at,
    ignoreHTTPSErrors: anyCertificate,
    serviceWorkers: installed ? 'allow' : 'block',
  });
  await context.addInitScript(
    `localStorage.setItem('theme', '${theme}');${fresh ? '' : ` localStorage.getItem('species') ?? localStorage.setItem('species', 'zander')`}`,
  );
  context.setDefaultTimeout(60_000);
  const page = await context.newPage();
  const errors: string[] = [];
  page.on('console', (message) => message.type() === 'error' && errors.push(message.text()));
  page.on('pageerror', (error) => errors.push(error.message));
  await page.goto(url);
  return { page, context, errors };
}

/**
 * Errors that are not the browser's own report of a request that got no answer: a page without a server has those. Which
 * words it has for them depends on whether the page, or what is installed of it, asked.
 */
export const ownErrors = (errors: string[]): string[] => errors.filter((e) => !/net::ERR_|Failed to fetch/.test(e));

/** Waits until something holds; asked from outside, since the page's policy forbids evaluated strings. */
export async function until(holds: () => Promise<boolean>, what: string): Promise<void> {
  // Long enough for a busy machine: it is only waited out where something is broken.
  const end = Date.now() + 90_000;
  while (!(await holds())) {
    if (Date.now() > end) throw new Error(`waited in vain until ${what}`);
    await new Promise((done) => setTimeout(done, 100));
  }
}

/** Waits until a dialog is gone, and its entry of the history with it: a step back that is under way would undo what is done next. */
export async function dialogGone(page: Page): Promise<void> {
  await page.getByRole('dialog').waitFor({ state: 'detached' });
  await until(
    () =>
      page.evaluate(() => (globalThis as unknown as { history: { state: { dialog?: boolean } | null } }).history.state?.dialog !== true),
    'the dialog’s entry of the history was gone',
  );
}
