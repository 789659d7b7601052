export const count = new Intl.NumberFormat('en');
export const amount = new Intl.NumberFormat('en', { maximumFractionDigits: 4 });

export const KINDS = { text: 'text', number: 'number', date: 'date', yesno: 'yes or no' } as const;

export { counted as plural } from '@bold-ruler/core/problem';
