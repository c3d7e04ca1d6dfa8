import type { Person, Route } from '@clear-mark/contract';
import { flushPromises, mount, type VueWrapper } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, expect, vi } from 'vitest';
import { nextTick } from 'vue';
import { createMemoryHistory, createRouter, type Router } from 'vue-router';
import { forgetReplies, queries } from '../src/api/queries.ts';
import { useSession } from '../src/session/session.ts';

/** Only what hangs ends here. */
const HANGS = { timeout: 60_000, interval: 10 };

/** Ids of a shape that the contract takes. */
export const id = (n: number): string => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
export const CLASS = id(1000);

export interface Asked {
  readonly method: string;
  readonly path: string;
  readonly query: URLSearchParams;
  readonly body: unknown;
}
type Asking = Pick<Route, 'method' | 'path'>;
type Answer = (asked: Asked) => Promise<Response> | Response;

/** A server that answers as a test says, one route at a time, and remembers what it was asked. What it does not know is lost. */
export class TestServer {
  readonly asked: Asked[] = [];
  private readonly answers = new Map<string, Answer>();

  constructor() {
    vi.stubGlobal('fetch', (url: string, given: RequestInit = {}) => this.take(url, given));
  }
  /** What a route replies from now on. */
  on(route: Asking, reply: unknown): this {
    this.answers.set(keyOf(route), (asked) =>
      json(200, typeof reply === 'function' ? (reply as (a: Asked) => unknown)(asked) : reply),
    );
    return this;
  }
  refuse(route: Asking, status: number, code: string, detail: string): this {
    this.answers.set(keyOf(route), () => json(status, { code, detail, status, title: '', type: 'x' }));
    return this;
  }
  /** The network is gone for this route. */
  lose(route: Asking): this {
    this.answers.delete(keyOf(route));
    return this;
  }
  /** The answer is held back until what this returns is called. */
  hold(route: Asking, reply: unknown): () => void {
    let answer!: () => void;
    const held = new Promise<Response>((resolve) => {
      answer = () => resolve(json(200, reply));
    });
    this.answers.set(keyOf(route), () => held);
    return answer;
  }
  /** What a route was asked, in order. */
  of(route: Asking): Asked[] {
    return this.asked.filter((a) => matches(route, a));
  }

  private take(url: string, given: RequestInit): Promise<Response> {
    const { pathname, searchParams } = new URL(url, 'http://class.test');
    const asked: Asked = {
      method: (given.method ?? 'GET').toLowerCase(),
      path: pathname,
      query: searchParams,
      body: typeof given.body === 'string' ? JSON.parse(given.body) : null,
    };
    this.asked.push(asked);
    for (const [key, answer] of this.answers) {
      const [method, path] = key.split(' ') as [string, string];
      if (matches({ method, path }, asked)) return Promise.resolve(answer(asked));
    }
    return Promise.reject(new TypeError('no network'));
  }
}
const keyOf = (route: Asking): string => `${route.method} ${route.path}`;
const matches = (route: { readonly method: string; readonly path: string }, asked: Asked): boolean =>
  route.method === asked.method && new RegExp(`^${route.path.replace(/:\w+/g, '[^/]+')}$`).test(asked.path);
const json = (status: number, body: unknown): Response =>
  new Response(JSON.stringify(body), {
    status,
    headers: { 'Content-Type': status < 400 ? 'application/json' : 'application/problem+json' },
  });

const NAMES =
  'today sheet faces links insight evidence retraining records setup method draft compare-methods safekeeping classes calls me own-sheet start join account accounts verify amend reports trace-run day';
const testRouter = (): Router =>
  createRouter({
    history: createMemoryHistory(),
    routes: NAMES.split(' ').map((name) => ({
      name,
      path: `/${name}/:classId?/:attemptId?/:versionId?/:traineeId?/:skill?/:seriesId?/:draftId?`,
      component: { template: '<i />' },
    })),
  });

const person = (role: Person['role']): Person => ({ id: id(1), name: 'Ysolde Brack', login: 'brack', role });

/** Unmounted after each test; the body stays, since Element Plus keeps the place of its lists there. */
const open: VueWrapper[] = [];

/** To be called once in a file of page tests: each test begins with nobody's replies, and ends with nothing mounted. */
export function freshPages(): void {
  beforeEach(() => {
    setActivePinia(createPinia());
    localStorage.clear();
    queries.setDefaultOptions({ queries: { ...queries.getDefaultOptions().queries, retryDelay: 0 } });
  });
  afterEach(() => {
    for (const page of open.splice(0)) page.unmount();
    forgetReplies();
    vi.unstubAllGlobals();
    vi.useRealTimers();
  });
}

export const settled = async (): Promise<void> => {
  for (let i = 0; i < 4; i += 1) {
    await flushPromises();
    await new Promise((resolve) => {
      setTimeout(resolve);
    });
    await nextTick();
  }
};

export interface Opened {
  readonly page: VueWrapper;
  readonly router: Router;
  readonly button: (words: string) => ReturnType<VueWrapper['get']>;
  /** Types into a field by its label or its place. */
  readonly type: (selector: string, text: string) => Promise<void>;
  readonly press: (words: string) => Promise<void>;
}

/** A page as somebody of a role sees it, at an address. */
export async function openPage(
  component: object,
  given: { readonly props?: object; readonly as?: Person['role'] | null; readonly at?: string } = {},
): Promise<Opened> {
  const session = useSession();
  const as = given.as === undefined ? 'instructor' : given.as;
  session.start ??= {
    demo: false,
    setupNeeded: false,
    me: as ? person(as) : null,
    deviceKey: null,
    needsSecondFactor: false,
    byPin: false,
  };
  const router = testRouter();
  await router.push(given.at ?? '/insight');
  const page = mount(component as never, {
    props: given.props as never,
    global: { plugins: [router] },
    attachTo: document.body,
  }) as unknown as VueWrapper;
  open.push(page);
  await settled();
  const button = (words: string) => {
    const found = page
      .findAll('button')
      .find((b) => b.text() === words || b.attributes('aria-label') === words);
    if (!found)
      throw new Error(
        `no button “${words}” among: ${page
          .findAll('button')
          .map((b) => b.text())
          .join(' | ')}`,
      );
    return found;
  };
  return {
    page,
    router,
    button: button as never,
    press: async (words) => {
      await button(words).trigger('click');
      await settled();
    },
    type: async (selector, text) => {
      const field = page.get(selector);
      await field.setValue(text);
      await field.trigger('blur');
      await settled();
    },
  };
}

/** Waits until words are shown on the page: what is wrong with a field is told a moment after it is left. */
export const shows = (page: VueWrapper, words: string): Promise<void> =>
  vi.waitFor(() => expect(page.text()).toContain(words), HANGS);
/** Waits until something holds. */
export const holds = (check: () => void): Promise<void> => vi.waitFor(check, HANGS);

/** A button anywhere, such as in a dialog or a message, which stand beside the page. */
export async function pressAnywhere(words: string, within = ''): Promise<void> {
  const buttons = [...document.querySelectorAll<HTMLButtonElement>(`${within} button`)];
  const found = buttons.filter((b) => b.textContent.trim() === words).pop();
  if (!found) throw new Error(`no button “${words}” anywhere`);
  found.click();
  await settled();
}

/** What a page warns of, in order. */
export const alerts = (page: { findAll: (s: string) => { text: () => string }[] }): string[] =>
  page.findAll('[role=alert]').map((a) => a.text());
