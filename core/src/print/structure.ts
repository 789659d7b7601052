import {
  beginMarkedContent,
  PDFName,
  PDFOperator,
  PDFOperatorNames,
  PDFHexString,
  type PDFContext,
  type PDFDocument,
  type PDFObject,
  type PDFPage,
  type PDFRef,
} from '@cantoo/pdf-lib';
import type { Placed } from '../page';
import type { Mark } from '../scene';
import type { Telling } from './pen';

/** An element of a document as it is heard, named by the standard’s names (ISO 32000-1, 14.8.4). */
interface Element {
  name: string;
  readonly parts: (Element | Content)[];
  more?: Readonly<Record<string, PDFObject>>;
}

/** Marks on a sheet by the number they have there. */
interface Content {
  readonly sheet: PDFPage;
  readonly id: number;
}

export interface Structure {
  /** How a block is told that stands on a sheet; blocks are told in the order in which they are asked for. */
  tell(sheet: PDFPage, placed: Placed): Telling;
  /** Writes it all into the document. */
  end(): void;
}

/** What a document tells those who hear it: headings, paragraphs, figures with their descriptions, tables cell by cell. */
export function structureOf(document: PDFDocument): Structure {
  const root: Element = { name: 'Document', parts: [] };
  const contents = new Map<PDFPage, Element[]>();
  // A figure under the heading of a section is one step further down.
  let hasHead = false;
  return {
    tell(sheet, placed) {
      if (placed.kind === 'head') hasHead = true;
      const of = toldBlock(document.context, placed, hasHead, root.parts);
      const own = contents.get(sheet) ?? [];
      contents.set(sheet, own);
      return {
        of,
        begin(part) {
          if (part === null) return beginMarkedContent('Artifact');
          const element = part as Element;
          const id = own.push(element) - 1;
          element.parts.push({ sheet, id });
          return PDFOperator.of(PDFOperatorNames.BeginMarkedContentSequence, [
            PDFName.of(element.name) as never,
            document.context.obj({ MCID: id }) as never,
          ]);
        },
      };
    },
    end: () => write(document, root, contents),
  };
}

/** Which element a mark of a block is content of; elements are made in the order of what they tell, among `elements`. */
function toldBlock(
  context: PDFContext,
  { kind, scene }: Placed,
  hasHead: boolean,
  elements: Element['parts'],
): (mark: Mark) => Element | null {
  const known = new Map<string, Element>();
  const lists = new Map<number, Element>();
  const element = (key: string, make: () => Element, into: (Element | Content)[] = elements): Element => {
    let one = known.get(key);
    if (!one) {
      one = make();
      known.set(key, one);
      into.push(one);
    }
    return one;
  };
  const named = (name: string, more?: Element['more']) => (): Element => ({
    name,
    parts: [],
    ...(more ? { more } : {}),
  });
  const level = kind === 'title' ? 'H1' : kind === 'head' || !hasHead ? 'H2' : 'H3';
  const columns = Math.max(0, ...scene.marks.map(({ part }) => (part?.as === 'cell' ? part.column + 1 : 0)));
  const isTable = columns > 0;
  const figure = () => {
    const description = hexText(scene.description);
    if (!isTable) return element('figure', named('Figure', { Alt: description }));
    return element('figure', named('Table', { A: context.obj({ O: 'Table', Summary: description }) }));
  };
  return (mark) => {
    const { part, role, shape } = mark;
    if (part?.as === 'cell' && shape === 'text') {
      const table = figure();
      // All rows have all cells; those that show nothing are empty.
      const cells = () => Array.from({ length: columns }, named('TD'));
      const row = element(`row ${part.line}`, () => ({ name: 'TR', parts: cells() }), table.parts);
      const cell = row.parts[part.column] as Element;
      if (part.line < 0 || part.isName) {
        cell.name = 'TH';
        cell.more = { A: context.obj({ O: 'Table', Scope: part.line < 0 ? 'Column' : 'Row' }) };
      }
      return cell;
    }
    if (part && part.as !== 'cell') {
      const key = `${part.as} ${part.nth}`;
      if (part.as === 'title') return element(key, named(level));
      if (part.as === 'heading') return element(key, named(hasHead ? 'H3' : 'H2'));
      if (part.as === 'paragraph') return element(key, named('P'));
      // Items below one another are one list.
      const list = lists.get(part.nth - 1) ?? lists.get(part.nth) ?? element(`list ${part.nth}`, named('L'));
      lists.set(part.nth, list);
      const item = element(`item ${part.nth}`, named('LI'), list.parts);
      return element(`body ${part.nth}`, named('LBody'), item.parts);
    }
    if (role === 'legend' || role === 'caption') return shape === 'text' ? element(role, named('P')) : null;
    if (kind !== 'figure' || isTable) return shape === 'text' ? element('rest', named('P')) : null;
    return figure();
  };
}

/** A text of a document (ISO 32000-1, 7.9.2.2): UTF-16, the larger byte first, behind its mark. */
function hexText(text: string): PDFHexString {
  let hex = 'FEFF';
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    hex += HEX[code >> 8]! + HEX[code & 0xff]!;
  }
  return PDFHexString.of(hex);
}

const HEX = Array.from({ length: 256 }, (_, byte) => byte.toString(16).toUpperCase().padStart(2, '0'));

/** Elements as objects of the document, each knowing what it belongs to and where its content is. */
function write(document: PDFDocument, root: Element, contents: ReadonlyMap<PDFPage, readonly Element[]>): void {
  const { context, catalog } = document;
  const tree = context.nextRef();
  const refs = new Map<Element, PDFRef>();
  const register = (element: Element, above: PDFRef): PDFRef => {
    const ref = context.nextRef();
    refs.set(element, ref);
    const kids = element.parts.map((part) =>
      'name' in part ? register(part, ref) : context.obj({ Type: 'MCR', Pg: part.sheet.ref, MCID: part.id }),
    );
    context.assign(ref, context.obj({ Type: 'StructElem', S: element.name, P: above, K: kids, ...element.more }));
    return ref;
  };
  const top = register(root, tree);
  const numbers: PDFObject[] = [];
  for (const [at, [sheet, elements]] of [...contents].entries()) {
    sheet.node.set(PDFName.of('StructParents'), context.obj(at));
    sheet.node.set(PDFName.of('Tabs'), PDFName.of('S'));
    numbers.push(context.obj(at), context.obj(elements.map((element) => refs.get(element)!)));
  }
  const parents = context.register(context.obj({ Nums: numbers }));
  context.assign(
    tree,
    context.obj({ Type: 'StructTreeRoot', K: top, ParentTree: parents, ParentTreeNextKey: contents.size }),
  );
  catalog.set(PDFName.of('StructTreeRoot'), tree);
  catalog.set(PDFName.of('MarkInfo'), context.obj({ Marked: true }));
}
