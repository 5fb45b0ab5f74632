import { FUNCTION, UNKNOWN, type Expr } from '../../expr.js';

/** What a hook of a form library gives, as far as it is handed to fields: the names are all that a spread may set. */
type Gives = (first: Expr) => Expr;

const object = (entries: readonly (readonly [string, Expr])[]): Expr => ({
  is: 'object',
  entries,
  open: false,
});
const unknown = (names: string): (readonly [string, Expr])[] =>
  names.split(' ').map((name) => [name, /^on[A-Z]|^set/.test(name) ? FUNCTION : UNKNOWN]);

// react-hook-form 7, createFormControl.ts: register.
const REGISTERED = object(
  unknown('name onChange onBlur ref disabled required min max minLength maxLength pattern'),
);

function formikProps(first: Expr): Expr {
  const isName = first.is !== 'object' && first.is !== 'prop' && first.is !== 'unknown';
  return object([
    ['name', isName ? first : UNKNOWN],
    ...unknown(isName ? 'value onChange onBlur' : 'value onChange onBlur checked multiple'),
  ]);
}

// formik 2, Formik.js: getFieldProps, getFieldMeta, getFieldHelpers. An object may ask for a checkbox or a list.
const formikField: Gives = (first) => {
  const field = formikProps(first);
  const meta = object(unknown('value error touched initialValue initialTouched initialError'));
  return { is: 'list', items: [field, meta, object(unknown('setValue setTouched setError'))] };
};

const HOOKS: ReadonlyMap<string, ReadonlyMap<string, Gives>> = new Map([
  ['formik', new Map([['useField', formikField]])],
  [
    // react-hook-form 7, useController.ts.
    'react-hook-form',
    new Map<string, Gives>([
      [
        'useController',
        () =>
          object([
            ['field', object(unknown('name value onChange onBlur ref disabled'))],
            ['fieldState', object(unknown('invalid isDirty isTouched isValidating error'))],
            ['formState', UNKNOWN],
          ]),
      ],
    ]),
  ],
]);

/** What a method gives that a form library's hook hands out: `register('cone')`. `isFrom`: whether the module takes a hook of it. */
export function givenByMethod(name: string, isFrom: (specifier: string) => boolean): Expr | undefined {
  if (name === 'register' && isFrom('react-hook-form')) return REGISTERED;
  return name === 'getFieldProps' && isFrom('formik') ? formikProps(UNKNOWN) : undefined;
}

/** What a call of a form library's hook gives; undefined for all other calls. */
export const givenByHook = (specifier: string, name: string, args: readonly Expr[]): Expr | undefined =>
  HOOKS.get(specifier)?.get(name)?.(args[0] ?? UNKNOWN);
