/** Names of months as they stand in files: English, German, French, Spanish, Italian, Dutch, Portuguese. */
const NAMES = [
  'january january januar janvier enero gennaio januari janeiro',
  'february februar fevrier febrero febbraio februari fevereiro',
  'march maerz marz mars marzo maart marco',
  'april april avril abril aprile',
  'may mai mayo maggio mei maio',
  'june juni juin junio giugno junho',
  'july juli juillet julio luglio julho',
  'august aout agosto augustus',
  'september septembre septiembre settembre setembro',
  'october oktober octobre octubre ottobre outubro',
  'november novembre noviembre',
  'december dezember decembre diciembre dicembre dezembro',
].map((line) => line.split(' '));

/** Every beginning of at least three letters that can mean only one month. */
const BEGINNINGS = new Map<string, number>();
const unclear = new Set<string>();
NAMES.forEach((names, i) => {
  for (const name of names) {
    for (let length = 3; length <= name.length; length++) {
      const beginning = name.slice(0, length);
      const known = BEGINNINGS.get(beginning);
      if (known !== undefined && known !== i + 1) unclear.add(beginning);
      BEGINNINGS.set(beginning, i + 1);
    }
  }
});
for (const beginning of unclear) BEGINNINGS.delete(beginning);

/** 1–12 for a month's name or the beginning of one, with or without its full stop; undefined for any other word. */
export function monthNamed(word: string): number | undefined {
  return BEGINNINGS.get(
    word
      .toLowerCase()
      .normalize('NFD')
      .replace(/[\u0300-\u036f.]/g, ''),
  );
}
