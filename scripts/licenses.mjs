// The notices of what is shipped: node scripts/licenses.mjs writes THIRD-PARTY-NOTICES.txt.
import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));

/** The packages that the application or the command line ship, by the lock file. */
export function shippedPackages() {
  const { packages } = JSON.parse(readFileSync(`${root}package-lock.json`, 'utf8'));
  return Object.entries(packages)
    .filter(
      ([path, { dev, devOptional, optional, link }]) =>
        path.includes('node_modules/') && !dev && !devOptional && !optional && !link,
    )
    .map(([path, { version, license }]) => ({ name: path.split('node_modules/').at(-1), version, license, path }))
    .sort((a, b) => a.name.localeCompare(b.name, 'en') || a.version.localeCompare(b.version, 'en'));
}

/** The text of a package's licence; null where it ships none. */
function licenseText(path) {
  const folder = `${root}${path}`;
  if (!existsSync(folder)) return null;
  const names = readdirSync(folder).filter((name) => /^(?:licen[sc]e|copying|notice)(?:[.-].*)?$/i.test(name));
  const texts = names.sort().map((name) => readFileSync(`${folder}/${name}`, 'utf8').replace(/\r\n?/g, '\n').trim());
  return texts.length === 0 ? null : texts.join('\n\n');
}

/** The notices of some packages: equal texts stand once, behind all they are of. */
export function noticesOf(packages) {
  const byText = new Map();
  for (const one of packages) {
    const text = licenseText(one.path) ?? `Licence: ${one.license}`;
    byText.set(text, [...(byText.get(text) ?? []), `${one.name} ${one.version} (${one.license})`]);
  }
  return [...byText].map(([text, names]) => `${names.join('\n')}\n\n${text}\n`).join(`\n${'-'.repeat(78)}\n\n`);
}

/** Who holds the rights of some packages, in a few lines: for a program that is carried in every page. */
export function shortNotices(packages) {
  return packages
    .map(({ name, version, license, path }) => {
      const rights = [...new Set(licenseText(path)?.match(/^\s*copyright (?!holders)(?!notice).*$/gim) ?? [])].map(
        (line) => line.trim(),
      );
      return `${name} ${version}, ${license}${rights.length > 0 ? `: ${rights.join('; ')}` : ''}`;
    })
    .join('\n');
}

/** The words of the MIT licence without its first lines. */
export const MIT = readFileSync(`${root}node_modules/fflate/LICENSE`, 'utf8')
  .replace(/\r\n?/g, '\n')
  .replace(/^[^]*?(?=Permission is hereby granted)/, '')
  .trim();

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const text = `What Bold Ruler ships of others, and under which terms. Made by “npm run notices”.\n\n${noticesOf(shippedPackages())}`;
  writeFileSync(`${root}THIRD-PARTY-NOTICES.txt`, text);
}
