/** Ways to set text off. Plain ones where colour is not wanted. */
export interface Colours {
  blocker(text: string): string;
  risk(text: string): string;
  hint(text: string): string;
  good(text: string): string;
  strong(text: string): string;
  faint(text: string): string;
  code(text: string): string;
}

const same = (text: string): string => text;
export const PLAIN: Colours = {
  blocker: same,
  risk: same,
  hint: same,
  good: same,
  strong: same,
  faint: same,
  code: same,
};
