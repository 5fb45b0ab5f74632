import type { ComponentRef } from '../../view.js';

// Objects of which each member is the element of its name, with more to it: animated, styled, or replaceable.
// Read from motion 11 and 12, react-spring 9, @chakra-ui/system 2, @radix-ui/react-primitive 1 and 2.
const FACTORIES: readonly { name: string; from: RegExp; takes: readonly string[] }[] = [
  {
    name: 'motion',
    from: /^(?:framer-motion|motion)(?:\/|$)/,
    takes:
      'initial animate exit variants transition layout layoutId whileHover whileTap whileFocus whileInView'.split(
        ' ',
      ),
  },
  {
    name: 'm',
    from: /^(?:framer-motion|motion)(?:\/|$)/,
    takes: 'initial animate exit variants transition layout'.split(' '),
  },
  { name: 'animated', from: /^(?:react-spring|@react-spring\/)/, takes: [] },
  { name: 'a', from: /^(?:react-spring|@react-spring\/)/, takes: [] },
  {
    name: 'chakra',
    from: /^(?:@chakra-ui\/|\.)/,
    takes: ['as', 'sx', '__css', 'layerStyle', 'textStyle', 'orientation'],
  },
  { name: 'Primitive', from: /^(?:@radix-ui\/|radix-ui)/, takes: ['asChild'] },
];

/** Whether a name is such an object that is called as well: `chakra('div')`, `motion(Lid)`. */
export const makesTags = (ref: ComponentRef | undefined): boolean =>
  ref !== undefined &&
  'specifier' in ref &&
  ref.part === undefined &&
  FACTORIES.some((each) => each.name === ref.name && each.from.test(ref.specifier));

/** The tag that a member of such an object stands for, and the props that it keeps to itself; undefined for all else. */
export function tagMade(
  ref: ComponentRef | undefined,
): { tag: string; takes: readonly string[] } | undefined {
  if (!ref || !('specifier' in ref) || ref.part === undefined || !/^[a-z][a-z0-9]*$/.test(ref.part))
    return undefined;
  const { specifier, name, part } = ref;
  const factory = FACTORIES.find((each) => each.name === name && each.from.test(specifier));
  return factory && { tag: part, takes: factory.takes };
}
