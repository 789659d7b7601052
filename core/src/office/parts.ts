import { zipSync, type Zippable } from 'fflate';

/** The parts of an Office Open XML package (ECMA-376) by their paths. */
export type Parts = Readonly<Record<string, string | Uint8Array>>;

/** Packages carry no time, so that the same content gives the same bytes; ZIP knows no earlier one. */
const NO_TIME = new Date(1980, 0, 1);

const XML = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n';
const REL = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
export const RELATIONS = {
  main: REL,
  package: 'http://schemas.openxmlformats.org/package/2006/relationships',
} as const;

/** The parts as one file. */
export function packed(parts: Parts): Uint8Array {
  const encoder = new TextEncoder();
  const files: Zippable = {};
  for (const [path, content] of Object.entries(parts)) {
    const isText = typeof content === 'string';
    files[path] = [isText ? encoder.encode(content) : content, { mtime: NO_TIME, level: isText ? 6 : 0 }];
  }
  return zipSync(files);
}

/** What kind of thing each part is. */
export function contentTypes(endings: Readonly<Record<string, string>>, parts: Readonly<Record<string, string>>) {
  return `${XML}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">${Object.entries(endings)
    .map(([ending, type]) => `<Default Extension="${ending}" ContentType="${type}"/>`)
    .join('')}${Object.entries(parts)
    .map(([path, type]) => `<Override PartName="/${path}" ContentType="${type}"/>`)
    .join('')}</Types>`;
}

/** Where a part leads: rId1, rId2, … in the order given. Kinds without a scheme are those of the standard. */
export function relations(to: readonly (readonly [kind: string, target: string])[]): string {
  return `${XML}<Relationships xmlns="${RELATIONS.package}">${to
    .map(
      ([kind, target], i) =>
        `<Relationship Id="rId${i + 1}" Type="${kind.includes('://') ? kind : `${REL}/${kind}`}" Target="${target}"/>`,
    )
    .join('')}</Relationships>`;
}

export const xml = (body: string) => `${XML}${body}`;

/** Title and program of a package; no time and no person. */
export function coreProperties(title: string): string {
  return xml(
    `<cp:coreProperties xmlns:cp="http://schemas.openxmlformats.org/package/2006/metadata/core-properties" xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:title>${safe(title)}</dc:title><dc:creator>Bold Ruler</dc:creator></cp:coreProperties>`,
  );
}

/** Text between tags and in attributes; characters that XML cannot hold are left away. */
export function safe(text: string): string {
  return text
    .replace(UNFIT, '')
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;');
}

/** Control characters, and halves of a character without the other. */
const UNFIT =
  // oxlint-disable-next-line no-control-regex
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;
