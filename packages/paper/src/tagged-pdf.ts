/**
 * Structure for reading a PDF aloud: which words are headings, paragraphs, items and cells, in which order, and what a drawing shows.
 * Source: ISO 32000-1, 14.7 (logical structure) and 14.8 (tagged PDF).
 *
 * pdfmake lays a document out and loses on the way which part a line is of. Its layout and its renderer are followed here at four
 * places, so that each line, drawing and picture is written as content of its part, and all else as an artifact.
 */

type Tag = 'Document' | 'H1' | 'H2' | 'P' | 'L' | 'LI' | 'LBody' | 'Table' | 'TR' | 'TH' | 'TD' | 'Figure';

/** A part of a document, with what was drawn of it. */
interface Part {
  readonly tag: Tag;
  readonly parts: Part[];
  readonly alt?: string;
  readonly span?: number;
  readonly contents: object[];
  /** The page on which it was begun. */
  page?: object;
}
const partOf = (tag: Tag, more: Partial<Part> = {}): Part => ({ tag, parts: [], contents: [], ...more });

type Node = Record<string, unknown>;
const OWN = '_part';

/** What is drawn of a node, a line or a shape of it. */
const drawnOf = (thing: object): Part | undefined => (thing as Record<string, Part | undefined>)[OWN];

const wordsOf = (text: unknown): string =>
  typeof text === 'string'
    ? text
    : Array.isArray(text)
      ? text.map(wordsOf).join('')
      : text !== null && typeof text === 'object'
        ? wordsOf((text as Node)['text'])
        : '';

/**
 * The parts that a node of a document is made of; each node that is drawn is told its own. Beside what pdfmake knows, a text may
 * have a `tag`, or be left `isUnread` where something else says the same, and what is drawn has `alt` where it says something.
 */
function partsOf(node: unknown): Part[] {
  if (Array.isArray(node)) return node.flatMap(partsOf);
  if (node === null || typeof node !== 'object') return [];
  const of = node as Node;
  const alt = of['alt'];
  if (of['text'] !== undefined) {
    if (of['isUnread'] === true || wordsOf(of['text']).trim() === '') return [];
    return [drawn(of, partOf((of['tag'] as Tag | undefined) ?? 'P'))];
  }
  if (of['svg'] !== undefined || of['image'] !== undefined || of['qr'] !== undefined || of['canvas'])
    return typeof alt === 'string' ? [drawn(of, partOf('Figure', { alt }))] : [];
  if (of['table']) return tableParts(of['table'] as TableNode);
  if (of['ul']) return [listPart(of['ul'] as unknown[])];
  return partsOf(of['stack'] ?? of['columns'] ?? []);
}

function drawn(node: Node, part: Part): Part {
  node[OWN] = part;
  return part;
}

const listPart = (items: readonly unknown[]): Part =>
  partOf('L', {
    parts: items.map((item) => partOf('LI', { parts: [within('LBody', item)] })),
  });

interface TableNode {
  readonly headerRows?: number;
  readonly body: readonly (readonly unknown[])[];
}
/** A single cell is a frame round its words. */
function tableParts({ headerRows = 0, body }: TableNode): Part[] {
  if (body.length === 1 && body[0]!.length === 1) return partsOf(body[0]![0]);
  const row = (cells: readonly unknown[], r: number): Part => {
    const parts: Part[] = [];
    for (let c = 0; c < cells.length;) {
      const cell = cells[c];
      const span = Number((cell as Node | null)?.['colSpan'] ?? 1);
      parts.push({ ...within(r < headerRows ? 'TH' : 'TD', cell), ...(span > 1 ? { span } : {}) });
      c += span;
    }
    return partOf('TR', { parts });
  };
  return [partOf('Table', { parts: body.map(row) })];
}

/** A part that holds a node: the words of a single text are its own, other things stand in it. */
function within(tag: Tag, node: unknown): Part {
  const own = node as Node | null;
  const parts = partsOf(node);
  const only = parts[0];
  const isText = own !== null && typeof own === 'object' && own['text'] !== undefined;
  return isText && only ? drawn(own, partOf(tag)) : partOf(tag, { parts });
}

/** What is used of a document of PDFKit. */
interface Document {
  readonly page: object;
  addPage: (...options: unknown[]) => unknown;
  markStructureContent: (tag: string) => object;
  markContent: (tag: string) => void;
  endMarkedContent: () => void;
  struct: (type: string, options: object, children: readonly object[]) => StructureElement;
  addStructure: (element: StructureElement) => void;
}
interface TaggedDocument extends Document {
  [OWN]?: Part;
  /** What is being written: a part, or null for an artifact. */
  open?: Part | null;
}
interface StructureElement {
  readonly dictionary: { readonly data: Record<string, unknown> };
}

interface Layout {
  layoutDocument: (content: unknown, document: object, ...more: unknown[]) => unknown;
  buildNextLine: (node: object) => object | null;
  processQr: (node: { readonly _canvas: readonly object[] }) => void;
  processCanvas: (node: { readonly canvas: readonly object[] }) => void;
}
interface Renderer {
  readonly pdfDocument: TaggedDocument;
  renderPages: (pages: unknown) => void;
  renderLine: (line: object, ...more: unknown[]) => void;
  renderVector: (vector: object) => void;
  renderImage: (image: object) => void;
  renderSVG: (svg: object) => void;
}

/** The two classes of pdfmake (0.3) whose work is followed. */
export interface PdfMakeParts {
  readonly LayoutBuilder: { readonly prototype: object };
  readonly Renderer: { readonly prototype: object };
}

/** From now on documents that this pdfmake makes carry their structure. To be called once. */
export function tagDocuments(made: PdfMakeParts): void {
  followLayout(made.LayoutBuilder.prototype as Layout);
  followRenderer(made.Renderer.prototype as Renderer);
}

function followLayout(layout: Layout): void {
  const { layoutDocument, buildNextLine, processQr, processCanvas } = layout;
  layout.layoutDocument = function (content, document, ...more) {
    (document as TaggedDocument)[OWN] = partOf('Document', { parts: partsOf(content) });
    return layoutDocument.call(this, content, document, ...more);
  };
  const told = (node: object, things: readonly object[]): void => {
    const part = drawnOf(node);
    if (part) for (const thing of things) (thing as Node)[OWN] = part;
  };
  layout.buildNextLine = function (node) {
    const line = buildNextLine.call(this, node);
    if (line) told(node, [line]);
    return line;
  };
  layout.processQr = function (node) {
    told(node, node._canvas);
    processQr.call(this, node);
  };
  layout.processCanvas = function (node) {
    told(node, node.canvas);
    processCanvas.call(this, node);
  };
}

function followRenderer(renderer: Renderer): void {
  const { renderPages } = renderer;
  for (const name of ['renderLine', 'renderVector', 'renderImage', 'renderSVG'] as const) {
    const render: (thing: object, ...more: unknown[]) => void = renderer[name];
    renderer[name] = function (this: Renderer, thing: object, ...more: unknown[]) {
      write(this.pdfDocument, drawnOf(thing));
      render.call(this, thing, ...more);
    };
  }
  renderer.renderPages = function (pages) {
    const document = this.pdfDocument;
    const { addPage } = document;
    document.addPage = (...options) => {
      close(document);
      return addPage.apply(document, options);
    };
    renderPages.call(this, pages);
    close(document);
    const whole = document[OWN];
    const element = whole && elementOf(document, whole);
    if (element) document.addStructure(element);
  };
}

/** What is drawn from now on is of this part; head cells are drawn anew on each page of a table, and are read on the first. */
function write(document: TaggedDocument, part: Part | undefined): void {
  if (part) part.page ??= document.page;
  const now = part && !(part.tag === 'TH' && part.page !== document.page) ? part : null;
  if (document.open === now) return;
  close(document);
  document.open = now;
  if (now) now.contents.push(document.markStructureContent(now.tag));
  else document.markContent('Artifact');
}

function close(document: TaggedDocument): void {
  if (document.open !== undefined) document.endMarkedContent();
  delete document.open;
}

/** A part as an element of the structure; null where nothing of it was drawn, except a cell, which keeps its column. */
function elementOf(document: Document, part: Part): StructureElement | null {
  const { tag, alt, span } = part;
  const parts = part.parts.map((p) => elementOf(document, p)).filter((e) => e !== null);
  const children = [...part.contents, ...parts];
  if (children.length === 0 && tag !== 'TD' && tag !== 'TH') return null;
  const options = { ...(alt === undefined ? {} : { alt }), ...(tag === 'TH' ? { scope: 'Column' } : {}) };
  const element = document.struct(tag, options, children);
  if (span !== undefined) Object.assign(element.dictionary.data, { A: { O: 'Table', ColSpan: span } });
  return element;
}
