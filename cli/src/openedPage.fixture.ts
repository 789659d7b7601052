import { createContext, Script } from 'node:vm';

// A page's HTML file, opened: its own loader and program run over what it carries, on as little of a browser as they use.

type Listener = (event: unknown) => void;

class FakeElement {
  readonly children: FakeElement[] = [];
  readonly attributes = new Map<string, string>();
  readonly listeners = new Map<string, Listener>();
  readonly dataset: Record<string, string> = {};
  textContent = '';
  hidden = false;
  onchange: (() => void) | null = null;
  readonly style = {};
  /** Called when markup is put into it. */
  onMarkup: ((markup: string) => void) | null = null;

  constructor(
    readonly tag: string,
    readonly page: OpenedPage,
  ) {}

  set innerHTML(markup: string) {
    this.onMarkup?.(markup);
  }
  get width() {
    return { baseVal: { value: Number(this.attributes.get('width')) } };
  }
  setAttribute(name: string, value: string): void {
    this.attributes.set(name, value);
  }
  getAttribute(name: string): string | null {
    return this.attributes.get(name) ?? null;
  }
  append(...made: FakeElement[]): void {
    this.children.push(...made);
    for (const one of made) if (one.tag === 'script') this.page.run(one.textContent);
  }
  replaceChildren(): void {
    this.children.length = 0;
  }
  addEventListener(name: string, listener: Listener): void {
    this.listeners.set(name, listener);
  }
  querySelectorAll(): FakeElement[] {
    return [];
  }
  focus(): void {}

  /** Everything that is read in it, each element's own words. */
  texts(): string[] {
    return [this.textContent, ...this.children.flatMap((child) => child.texts())].filter((text) => text !== '');
  }
}

/** Programs are the same in all pages. */
const compiled = new Map<string, Script>();

/** A page's file as a browser opens it. */
export class OpenedPage {
  private readonly elements = new Map<string, FakeElement>();
  private readonly context: ReturnType<typeof createContext>;
  private readonly location = { hash: '', pathname: '/page.html' };
  private readonly listeners = new Map<string, Listener>();
  private drawn: (markup: string) => void = () => {};
  private failed: (error: unknown) => void = () => {};

  private constructor(private readonly html: string) {
    const document = {
      body: new FakeElement('body', this),
      documentElement: { clientWidth: 10_000 },
      activeElement: null,
      getElementById: (id: string) => this.elementOf(id),
      createElement: (tag: string) => new FakeElement(tag, this),
      querySelectorAll: () => [],
    };
    this.context = createContext({
      document,
      location: this.location,
      history: { replaceState: () => {} },
      addEventListener: (name: string, listener: Listener) => this.listeners.set(name, listener),
      ...{ Response, Blob, DecompressionStream, DataView, Uint8Array, TextDecoder, TextEncoder },
      ...{ queueMicrotask, setTimeout, clearTimeout, structuredClone, console },
    });
  }

  /** Opens a file. @returns it and the picture that its program draws first */
  static async open(html: string): Promise<{ page: OpenedPage; svg: string }> {
    const page = new OpenedPage(html);
    const [loader] = [...html.matchAll(/<script>(.*?)<\/script>/gs)].map(([, script]) => script!).slice(-1);
    const svg = page.awaited();
    page.run(loader!);
    return { page, svg: await svg };
  }

  /** What is drawn once its reader has chosen, as an address says it. */
  async chosen(choice: object): Promise<string> {
    const svg = this.awaited();
    this.location.hash = `#${encodeURIComponent(JSON.stringify(choice))}`;
    this.listeners.get('hashchange')!({});
    return svg;
  }

  /** The texts of the working of a mark that is pressed, by its number. */
  async working(mark: number): Promise<string[]> {
    const side = this.elementOf('reckoning');
    side.hidden = true;
    const pressed = { dataset: { r: String(mark) }, focus: () => {} };
    this.elementOf('page').listeners.get('click')!({ target: { closest: () => pressed } });
    while (side.hidden) await new Promise((resolve) => setTimeout(resolve, 1));
    return side.texts();
  }

  /** What its reader may choose from, and what a page's foot tells beside it. */
  get choices(): string[] {
    return this.elementOf('choices').texts();
  }

  run(text: string): void {
    let script = compiled.get(text);
    if (!script) compiled.set(text, (script = new Script(text)));
    try {
      script.runInContext(this.context);
    } catch (error) {
      this.failed(error);
    }
  }

  private awaited(): Promise<string> {
    return new Promise((resolve, reject) => {
      this.drawn = resolve;
      this.failed = reject;
      // What goes wrong in a page's program is told by nobody.
      setTimeout(() => reject(new Error('the page’s program drew nothing')), 600_000).unref();
    });
  }

  private elementOf(id: string): FakeElement {
    let element = this.elements.get(id);
    if (element) return element;
    const found = new RegExp(`<(\\w+)([^>]*\\bid="${id}"[^>]*)>`).exec(this.html);
    if (!found) throw new Error(`the file has no element “${id}”`);
    element = new FakeElement(found[1]!, this);
    for (const [, name, value] of found[2]!.matchAll(/([\w-]+)="([^"]*)"/g)) element.setAttribute(name!, value!);
    const from = found.index + found[0].length;
    element.textContent = this.html.slice(from, this.html.indexOf(`</${found[1]}>`, from));
    if (id === 'page') element.onMarkup = (markup) => this.drawn(markup);
    if (id === 'choices' || id === 'reckoning') element.textContent = '';
    this.elements.set(id, element);
    return element;
  }
}
