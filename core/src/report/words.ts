// What the names of columns and tables say of what they hold.

/** What is aimed at. */
const TARGET = /\b(?:targets?|plan|plans|planned|budgets?|budgeted|goals?|quotas?|forecasts?)\b/i;

/** Amounts of money that are sold for. */
const MONEY = /\b(?:net|gross|sales|revenue|turnover|amount|umsatz|betrag|value|income)\b/i;

/** Values that are no amounts: their sum says nothing. */
const RATES =
  /(?:^|[\s_-])(?:rate|ratio|score|rating|average|avg|mean|percent|percentage|pct|prices?|share|index|nps|grade)(?:$|[\s_(-])|%|\(\s*\d+\s*(?:-|–|to)\s*\d+\s*\)/i;

/** Facts beside sales and targets. */
const OTHER_FACTS =
  /\b(?:stock|inventory|on hand|head ?count|visits?|visitors|survey|feedback|complaints?|answers?)\b/i;

/** What a column is called that names things one by one. */
const IDENTIFIER =
  /(?:^|[\s_.-])(?:id|ids|no|nr|num|number|code|sku|key|ref|zip|postcode|phone|year|month)\.?$|^(?:id|nr|no|year|month)\b|[a-z](?:Id|ID|No|Nr|Code|Number)$/;

/** Whether a column is called as if it named things one by one. */
export const isIdentifier = (name: string): boolean => IDENTIFIER.test(name) || IDENTIFIER.test(name.toLowerCase());

/** Whether a column of numbers looks as if its values had a mean and no sum: a rate, a price, a score, a share. */
export const isRate = (name: string, unit?: string): boolean => unit === '%' || RATES.test(name);

/** Whether a table or column is called as if it held other facts, such as a stock or a survey. */
export const isOtherFact = (name: string): boolean => OTHER_FACTS.test(name.replaceAll('_', ' '));

export const isTarget = (name: string): boolean => TARGET.test(name.replaceAll('_', ' '));

/** Words for columns that count or weigh things: no amounts of money. */
const COUNTED = /\b(?:qty|quantity|quantities|pieces|pcs|units?|count|number|items|hours|days|visits|kg|weight)\b/i;

/** Whether a column’s name says that it counts or weighs things. */
export const isQuantity = (name: string): boolean => COUNTED.test(name.replaceAll('_', ' '));

/** Of some numbers the one that is likely to be what is sold, not what names a row or what is aimed at. */
export function likelyMeasure(names: readonly string[]): string | undefined {
  const likely = names.filter((name) => !isTarget(name) && !isIdentifier(name));
  return likely.find((name) => MONEY.test(name)) ?? likely[0] ?? names[0];
}
