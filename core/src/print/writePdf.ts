import { concatTransformationMatrix, PDFDocument, PDFHexString, type PDFFont, type PDFPage } from '@cantoo/pdf-lib';
import * as fontkit from 'fontkit';
import { PAPERS, type DrawnPage, type Paper, type Placed } from '../page';
import { lettersIn, PAPER, type FontFiles, type Weight } from '../scene';
import { openFonts, type OpenFont } from './letters';
import { penned, type Inkwell } from './pen';
import { structureOf } from './structure';

/** A CSS pixel in points. */
const PIXEL = 0.75;

export interface PdfOptions {
  readonly fonts: FontFiles;
  readonly paper?: Paper;
}

/**
 * A page as tagged PDF 1.7: vectors, texts that can be searched, the letters they need embedded, and what those hear who do not see it.
 * On paper its rows go on over as many sheets as they need. The same page gives the same bytes. Letters that no font file has become question marks; how many is
 * told.
 */
export async function writePdf(
  page: DrawnPage,
  { fonts, paper }: PdfOptions,
): Promise<{ readonly bytes: Uint8Array; readonly sheets: number; readonly missing: number }> {
  const document = await PDFDocument.create({ updateMetadata: false });
  document.registerFontkit(fontkit as never);
  document.setTitle(page.title, { showInWindowTitleBar: true });
  document.setLanguage('en');
  document.setCreator('Bold Ruler');
  document.setProducer('Bold Ruler');
  const letters = await lettersOf(document, fonts);
  const structure = structureOf(document);
  const [width, height] = paper ? PAPERS[paper] : [page.width * PIXEL, page.height * PIXEL];
  const scale = width / page.width;
  const sheets = paper ? sheetsOf(page, height / scale) : [{ placed: page.placed, top: 0 }];
  for (const { placed, top } of sheets) {
    const sheet = document.addPage([width, height]);
    // From here on one unit is a pixel, and y goes downward.
    sheet.pushOperators(concatTransformationMatrix(scale, 0, 0, -scale, 0, height + top * scale));
    const inkwell = inkwellOf(sheet, letters);
    for (const one of placed)
      sheet.pushOperators(
        ...penned(
          one.scene,
          { x: one.x, y: one.y, paper: one.kind === 'figure' ? PAPER : null },
          inkwell,
          structure.tell(sheet, one),
        ),
      );
  }
  structure.end();
  const bytes = await document.save();
  return { bytes, sheets: sheets.length, missing: letters.missing() };
}

interface Sheet {
  readonly placed: readonly Placed[];
  /** What lies at the sheet's upper edge, in pixels of the page. */
  readonly top: number;
}

/** Rows of the page on sheets of a height, each row whole on one sheet where it fits; a heading goes with what it heads. */
function sheetsOf({ placed }: DrawnPage, height: number): Sheet[] {
  const margin = placed[0]?.y ?? 0;
  const sheets: { placed: Placed[]; top: number }[] = [{ placed: [], top: 0 }];
  const stands: Placed[][] = [];
  for (const one of placed) {
    const last = stands[stands.length - 1];
    const before = last?.[last.length - 1];
    if (last && before && ((before.row === one.row && before.y === one.y) || before.kind === 'head')) last.push(one);
    else stands.push([one]);
  }
  for (const stand of stands) {
    const sheet = sheets[sheets.length - 1]!;
    const bottom = Math.max(...stand.map(({ y, scene }) => y + scene.height));
    const overflows = bottom + margin > sheet.top + height;
    if (overflows && sheet.placed.length > 0) sheets.push({ placed: [...stand], top: stand[0]!.y - margin });
    else sheet.placed.push(...stand);
  }
  return sheets;
}

interface Letters {
  /** A text in pieces, each in a font that has its letters; widths in ems. */
  pieces(text: string, weight: Weight): readonly { readonly font: PDFFont; readonly text: string }[];
  /** A text in the codes of a font, and its width in ems. */
  set(font: PDFFont, text: string): { readonly codes: PDFHexString; readonly width: number };
  /** How many letters no font had. */
  missing(): number;
}

/** The fonts of a document; what no text needs is not embedded. */
async function lettersOf(document: PDFDocument, files: FontFiles): Promise<Letters> {
  const opened = openFonts(files);
  const embedded = new Map<OpenFont, PDFFont>();
  for (const weight of [400, 600] as const)
    for (const [i, font] of opened[weight].entries())
      embedded.set(
        font,
        await document.embedFont(font.file, {
          subset: true,
          features: { liga: false, kern: false },
          customName: `BoldRuler-${weight}-${i}`,
        }),
      );
  const known = new Map<PDFFont, Map<string, { readonly code: string; readonly width: number }>>();
  let missing = 0;
  return {
    pieces(text, weight) {
      const pieces: { font: PDFFont; text: string }[] = [];
      for (const letter of lettersIn(text)) {
        const found = opened[weight].find(({ has }) => has(letter.codePointAt(0)!));
        if (!found) missing += 1;
        const font = embedded.get(found ?? opened[weight][0]!)!;
        const last = pieces[pieces.length - 1];
        if (last?.font === font) last.text += found ? letter : '?';
        else pieces.push({ font, text: found ? letter : '?' });
      }
      return pieces;
    },
    set(font, text) {
      let of = known.get(font);
      if (!of) known.set(font, (of = new Map()));
      let [codes, width] = ['', 0];
      for (const letter of text) {
        let one = of.get(letter);
        if (!one) {
          // Letters stand for themselves: there are no ligatures and no kerning.
          one = { code: font.encodeText(letter).asString(), width: font.widthOfTextAtSize(letter, 1) };
          of.set(letter, one);
        }
        codes += one.code;
        width += one.width;
      }
      return { codes: PDFHexString.of(codes), width };
    },
    missing: () => missing,
  };
}

function inkwellOf(sheet: PDFPage, letters: Letters): Inkwell {
  const { context } = sheet.doc;
  const fonts = new Map<PDFFont, string>();
  const opacities = new Map<number, string>();
  return {
    pieces: (text, weight) =>
      letters.pieces(text, weight).map((piece) => {
        let font = fonts.get(piece.font);
        if (font === undefined) {
          font = sheet.node.newFontDictionary(piece.font.name, piece.font.ref).asString().slice(1);
          fonts.set(piece.font, font);
        }
        return { font, ...letters.set(piece.font, piece.text) };
      }),
    opacity(of) {
      let name = opacities.get(of);
      if (name === undefined) {
        name = sheet.node
          .newExtGState('Opacity', context.obj({ ca: of, CA: of }))
          .asString()
          .slice(1);
        opacities.set(of, name);
      }
      return name;
    },
  };
}
