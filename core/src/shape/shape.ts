import * as yup from 'yup';

// What stands in a report's file, checked piece by piece: each says in words what is wrong, and where.

/** A name: some text without spaces at its ends. */
export const name = () =>
  yup
    .string()
    .required('${path} is missing')
    .max(200)
    .test('trimmed', '${path} begins or ends with a space', (text) => text === text?.trim());
export const text = (most = 2000) => yup.string().required('${path} is missing').max(most);
export const flag = (value: true) => yup.boolean().oneOf([value], '${path} can only be true');
export const oneOf = <T extends string>(words: readonly T[]) =>
  yup.string().oneOf(words, `\${path} must be one of ${words.join(', ')}`);
export const number = () =>
  yup
    .number()
    .typeError('${path} must be a number')
    .test('finite', '${path} must be a finite number', (n) => n === undefined || Number.isFinite(n));
export const object = <S extends yup.ObjectShape>(shape: S) =>
  yup
    .object(shape)
    .noUnknown(
      true,
      ({ path, unknown }: { path: string; unknown: string }) =>
        `${path ? `${path} ` : ''}has a key this version does not know: ${unknown}`,
    );
export const list = <T>(of: yup.ISchema<T>, most = 1000) =>
  yup.array().of(of).max(most, `\${path} may have at most ${most} entries`).required('${path} is missing');

/** Ends of a ruler: two numbers that a difference can be taken of. */
export const domain = () =>
  yup
    .array()
    .of(number().min(-1e100, '${path} must be above -1e100').max(1e100, '${path} must be below 1e100').required())
    .length(2, '${path} must be two numbers');
