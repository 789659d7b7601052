import { contentTypes, coreProperties, packed, relations, RELATIONS, safe, xml } from './parts';

/** A figure on a slide. */
export interface SlidePicture {
  /** Vectors, and the same as a PNG for programs that draw none. */
  readonly svg: string;
  readonly png: Uint8Array;
  /** CSS pixels. */
  readonly width: number;
  readonly height: number;
  /** What it shows, in words. */
  readonly words: string;
}

export interface SlideTable {
  readonly header: readonly string[];
  /** Cells as they are written; numbers are set to the right. */
  readonly lines: readonly (readonly { readonly text: string; readonly isNumber: boolean }[])[];
}

export interface Slide {
  readonly title: string;
  /** Beneath the title. */
  readonly about: string;
  readonly picture?: SlidePicture;
  readonly table?: SlideTable;
  /** Paragraphs; lines that begin with “# ” are headings, those with “- ” items of a list. */
  readonly text?: readonly string[];
}

/** English Metric Units: 914,400 to the inch. A slide is 13⅓ by 7½ inches, 1280 by 720 CSS pixels. */
const EMU = 9525;
const [WIDE, HIGH] = [1280, 720];
const MARGIN = 48;
const INNER = WIDE - 2 * MARGIN;
/** Where the content begins, under title and subtitle. */
const TOP = 128;
const FOOT = 32;
const INK = '16202B';
const QUIET = '56636E';

const P = 'http://schemas.openxmlformats.org/presentationml/2006/main';
const A = 'http://schemas.openxmlformats.org/drawingml/2006/main';
const SPACES = `xmlns:a="${A}" xmlns:r="${RELATIONS.main}" xmlns:p="${P}"`;
const KIND = 'application/vnd.openxmlformats-officedocument.presentationml';
/** The extension of DrawingML that holds a picture’s vectors beside its pixels. */
const SVG_EXTENSION = '{96DAC541-7B7A-43D3-8B79-37D633B846F1}';

/** Slides (PPTX, ECMA-376): native titles, texts and tables, figures as vectors. The same slides give the same bytes. */
export function writePptx(title: string, slides: readonly Slide[]): Uint8Array {
  const parts: Record<string, string | Uint8Array> = {};
  const kinds: Record<string, string> = {
    'ppt/presentation.xml': `${KIND}.presentation.main+xml`,
    'ppt/slideMasters/slideMaster1.xml': `${KIND}.slideMaster+xml`,
    'ppt/slideLayouts/slideLayout1.xml': `${KIND}.slideLayout+xml`,
    'ppt/theme/theme1.xml': 'application/vnd.openxmlformats-officedocument.theme+xml',
    'docProps/core.xml': 'application/vnd.openxmlformats-package.core-properties+xml',
  };
  slides.forEach((slide, i) => {
    const path = `ppt/slides/slide${i + 1}.xml`;
    kinds[path] = `${KIND}.slide+xml`;
    parts[path] = slideXml(slide);
    const to: (readonly [string, string])[] = [['slideLayout', '../slideLayouts/slideLayout1.xml']];
    if (slide.picture) {
      to.push(['image', `../media/figure${i + 1}.png`], ['image', `../media/figure${i + 1}.svg`]);
      parts[`ppt/media/figure${i + 1}.png`] = slide.picture.png;
      parts[`ppt/media/figure${i + 1}.svg`] = slide.picture.svg;
    }
    parts[`ppt/slides/_rels/slide${i + 1}.xml.rels`] = relations(to);
  });
  return packed({
    '[Content_Types].xml': contentTypes(
      {
        rels: 'application/vnd.openxmlformats-package.relationships+xml',
        xml: 'application/xml',
        png: 'image/png',
        svg: 'image/svg+xml',
      },
      kinds,
    ),
    '_rels/.rels': relations([
      ['officeDocument', 'ppt/presentation.xml'],
      ['http://schemas.openxmlformats.org/package/2006/relationships/metadata/core-properties', 'docProps/core.xml'],
    ]),
    'docProps/core.xml': coreProperties(title),
    'ppt/presentation.xml': xml(
      `<p:presentation ${SPACES}><p:sldMasterIdLst><p:sldMasterId id="2147483648" r:id="rId1"/></p:sldMasterIdLst><p:sldIdLst>${slides
        .map((_, i) => `<p:sldId id="${256 + i}" r:id="rId${i + 3}"/>`)
        .join(
          '',
        )}</p:sldIdLst><p:sldSz cx="${WIDE * EMU}" cy="${HIGH * EMU}"/><p:notesSz cx="6858000" cy="9144000"/></p:presentation>`,
    ),
    'ppt/_rels/presentation.xml.rels': relations([
      ['slideMaster', 'slideMasters/slideMaster1.xml'],
      ['theme', 'theme/theme1.xml'],
      ...slides.map((_, i) => ['slide', `slides/slide${i + 1}.xml`] as const),
    ]),
    'ppt/slideMasters/slideMaster1.xml': MASTER,
    'ppt/slideMasters/_rels/slideMaster1.xml.rels': relations([
      ['slideLayout', '../slideLayouts/slideLayout1.xml'],
      ['theme', '../theme/theme1.xml'],
    ]),
    'ppt/slideLayouts/slideLayout1.xml': LAYOUT,
    'ppt/slideLayouts/_rels/slideLayout1.xml.rels': relations([['slideMaster', '../slideMasters/slideMaster1.xml']]),
    'ppt/theme/theme1.xml': THEME,
    ...parts,
  });
}

const EMPTY_GROUP =
  '<p:nvGrpSpPr><p:cNvPr id="1" name=""/><p:cNvGrpSpPr/><p:nvPr/></p:nvGrpSpPr><p:grpSpPr><a:xfrm><a:off x="0" y="0"/><a:ext cx="0" cy="0"/><a:chOff x="0" y="0"/><a:chExt cx="0" cy="0"/></a:xfrm></p:grpSpPr>';

function slideXml({ title, about, picture, table, text }: Slide): string {
  const shapes = [
    textBox(2, 'Title', [{ text: title, size: 24, isBold: true, color: INK }], MARGIN, 28, INNER, 64, 'title'),
    textBox(3, 'About', [{ text: about, size: 12, color: QUIET }], MARGIN, 90, INNER, 28),
  ];
  if (text)
    shapes.push(
      textBox(
        4,
        'Text',
        text.map((one) =>
          one.startsWith('# ')
            ? { text: one.slice(2), size: 18, color: INK, isBold: true as const }
            : { text: one.replace(/^- /, '–  '), size: 16, color: INK },
        ),
        MARGIN,
        TOP,
        INNER,
        HIGH - TOP - FOOT,
      ),
    );
  if (picture) shapes.push(pictureXml(picture));
  if (table) shapes.push(tableXml(table));
  return xml(
    `<p:sld ${SPACES}><p:cSld><p:spTree>${EMPTY_GROUP}${shapes.join('')}</p:spTree></p:cSld><p:clrMapOvr><a:masterClrMapping/></p:clrMapOvr></p:sld>`,
  );
}

interface Words {
  readonly text: string;
  /** Points. */
  readonly size: number;
  readonly isBold?: true;
  readonly color: string;
}

function textBox(
  id: number,
  name: string,
  paragraphs: readonly Words[],
  x: number,
  y: number,
  width: number,
  height: number,
  placeholder?: 'title',
): string {
  const place = placeholder ? `<p:nvPr><p:ph type="${placeholder}"/></p:nvPr>` : '<p:nvPr/>';
  return (
    `<p:sp><p:nvSpPr><p:cNvPr id="${id}" name="${name}"/><p:cNvSpPr${placeholder ? '' : ' txBox="1"'}/>${place}</p:nvSpPr>` +
    `<p:spPr>${frame('a', x, y, width, height)}<a:prstGeom prst="rect"><a:avLst/></a:prstGeom><a:noFill/></p:spPr>` +
    `<p:txBody><a:bodyPr wrap="square" lIns="0" tIns="0" rIns="0" bIns="0" anchor="${placeholder ? 'b' : 't'}"><a:normAutofit/></a:bodyPr><a:lstStyle/>${paragraphs
      .map((one) => paragraph(one))
      .join('')}</p:txBody></p:sp>`
  );
}

const paragraph = ({ text, size, isBold, color }: Words, align: 'l' | 'r' = 'l') =>
  `<a:p><a:pPr algn="${align}">${size > 12 && !isBold ? '<a:spcAft><a:spcPts val="600"/></a:spcAft>' : ''}</a:pPr><a:r><a:rPr lang="en" sz="${size * 100}"${isBold ? ' b="1"' : ''} dirty="0"><a:solidFill><a:srgbClr val="${color}"/></a:solidFill></a:rPr><a:t>${safe(text)}</a:t></a:r></a:p>`;

const frame = (space: 'a' | 'p', x: number, y: number, width: number, height: number) =>
  `<${space}:xfrm><a:off x="${emu(x)}" y="${emu(y)}"/><a:ext cx="${emu(width)}" cy="${emu(height)}"/></${space}:xfrm>`;
const emu = (pixels: number) => Math.round(pixels * EMU);

/** As large as the slide has room for, in its own proportions. */
function pictureXml({ width, height, words }: SlidePicture): string {
  const scale = Math.min(INNER / width, (HIGH - TOP - FOOT) / height);
  const x = MARGIN + (INNER - width * scale) / 2;
  return (
    `<p:pic><p:nvPicPr><p:cNvPr id="5" name="Figure" descr="${safe(words)}"/><p:cNvPicPr><a:picLocks noChangeAspect="1"/></p:cNvPicPr><p:nvPr/></p:nvPicPr>` +
    `<p:blipFill><a:blip r:embed="rId2"><a:extLst><a:ext uri="${SVG_EXTENSION}"><asvg:svgBlip xmlns:asvg="http://schemas.microsoft.com/office/drawing/2016/SVG/main" r:embed="rId3"/></a:ext></a:extLst></a:blip><a:stretch><a:fillRect/></a:stretch></p:blipFill>` +
    `<p:spPr>${frame('a', x, TOP, width * scale, height * scale)}<a:prstGeom prst="rect"><a:avLst/></a:prstGeom></p:spPr></p:pic>`
  );
}

/** Lines a slide has room for, and how high each is. */
export const TABLE_LINES = 18;
const LINE = 28;

function tableXml({ header, lines }: SlideTable): string {
  const columns = header.length;
  const isNumber = header.map((_, c) => lines.some((line) => line[c]?.isNumber));
  // Names take twice the room of numbers.
  const parts = isNumber.map((one) => (one ? 1 : 2));
  const whole = parts.reduce((sum, part) => sum + part, 0);
  const width = Math.min(INNER, columns * 200);
  const row = (cells: readonly string[]) => `<a:tr h="${emu(LINE)}">${cells.join('')}</a:tr>`;
  const cell = (text: string, c: number, isHead: boolean) =>
    `<a:tc><a:txBody><a:bodyPr/><a:lstStyle/>${paragraph(
      { text, size: 12, color: INK, ...(isHead ? { isBold: true } : {}) },
      isNumber[c] ? 'r' : 'l',
    )}</a:txBody><a:tcPr marL="${emu(6)}" marR="${emu(6)}" marT="${emu(3)}" marB="${emu(3)}" anchor="ctr">${NO_LINE('lnL')}${NO_LINE('lnR')}${NO_LINE('lnT')}<a:lnB w="6350"><a:solidFill><a:srgbClr val="C9CCC6"/></a:solidFill></a:lnB>${
      isHead ? '<a:solidFill><a:srgbClr val="F3E3B8"/></a:solidFill>' : '<a:noFill/>'
    }</a:tcPr></a:tc>`;
  return (
    `<p:graphicFrame><p:nvGraphicFramePr><p:cNvPr id="6" name="Numbers"/><p:cNvGraphicFramePr><a:graphicFrameLocks noGrp="1"/></p:cNvGraphicFramePr><p:nvPr/></p:nvGraphicFramePr>` +
    frame('p', MARGIN, TOP, width, LINE * (lines.length + 1)) +
    `<a:graphic><a:graphicData uri="http://schemas.openxmlformats.org/drawingml/2006/table"><a:tbl><a:tblPr firstRow="1"/><a:tblGrid>${parts
      .map((part) => `<a:gridCol w="${emu((width * part) / whole)}"/>`)
      .join('')}</a:tblGrid>${row(header.map((text, c) => cell(text, c, true)))}${lines
      .map((line) => row(line.map(({ text }, c) => cell(text, c, false))))
      .join('')}</a:tbl></a:graphicData></a:graphic></p:graphicFrame>`
  );
}

const NO_LINE = (edge: string) => `<a:${edge} w="0"><a:noFill/></a:${edge}>`;

const MASTER = xml(
  `<p:sldMaster ${SPACES}><p:cSld><p:bg><p:bgPr><a:solidFill><a:srgbClr val="FAFAF7"/></a:solidFill><a:effectLst/></p:bgPr></p:bg><p:spTree>${EMPTY_GROUP}</p:spTree></p:cSld>` +
    '<p:clrMap bg1="lt1" tx1="dk1" bg2="lt2" tx2="dk2" accent1="accent1" accent2="accent2" accent3="accent3" accent4="accent4" accent5="accent5" accent6="accent6" hlink="hlink" folHlink="folHlink"/>' +
    '<p:sldLayoutIdLst><p:sldLayoutId id="2147483649" r:id="rId1"/></p:sldLayoutIdLst><p:txStyles><p:titleStyle/><p:bodyStyle/><p:otherStyle/></p:txStyles></p:sldMaster>',
);
const LAYOUT = xml(
  `<p:sldLayout ${SPACES} type="titleOnly" preserve="1"><p:cSld name="Figure"><p:spTree>${EMPTY_GROUP}${textBox(2, 'Title', [{ text: 'Title', size: 24, isBold: true, color: INK }], MARGIN, 28, INNER, 64, 'title')}</p:spTree></p:cSld><p:clrMapOvr><a:masterClrMapping/></p:clrMapOvr></p:sldLayout>`,
);
const color = (name: string, value: string) => `<a:${name}><a:srgbClr val="${value}"/></a:${name}>`;
const FILL = '<a:solidFill><a:schemeClr val="phClr"/></a:solidFill>';
const EDGE = `<a:ln w="6350">${FILL}</a:ln>`;
const EFFECT = '<a:effectStyle><a:effectLst/></a:effectStyle>';
const THEME = xml(
  `<a:theme xmlns:a="${A}" name="Bold Ruler"><a:themeElements><a:clrScheme name="Bold Ruler">${[
    ['dk1', INK],
    ['lt1', 'FAFAF7'],
    ['dk2', QUIET],
    ['lt2', 'ECEDE8'],
    ['accent1', 'E9C15B'],
    ['accent2', '14756A'],
    ['accent3', 'C8452B'],
    ['accent4', '66727F'],
    ['accent5', '3E5C8A'],
    ['accent6', '8A6A3E'],
    ['hlink', '3E5C8A'],
    ['folHlink', '66727F'],
  ]
    .map(([name, value]) => color(name!, value!))
    .join('')}</a:clrScheme>` +
    '<a:fontScheme name="Bold Ruler"><a:majorFont><a:latin typeface="Archivo Narrow"/><a:ea typeface=""/><a:cs typeface=""/></a:majorFont><a:minorFont><a:latin typeface="Archivo Narrow"/><a:ea typeface=""/><a:cs typeface=""/></a:minorFont></a:fontScheme>' +
    `<a:fmtScheme name="Bold Ruler"><a:fillStyleLst>${FILL.repeat(3)}</a:fillStyleLst><a:lnStyleLst>${EDGE.repeat(3)}</a:lnStyleLst><a:effectStyleLst>${EFFECT.repeat(3)}</a:effectStyleLst><a:bgFillStyleLst>${FILL.repeat(3)}</a:bgFillStyleLst></a:fmtScheme></a:themeElements></a:theme>`,
);
