/** Whether a regular expression of somebody's settings matches a text; one that is not valid may take anything. */
export function mayMatch(pattern: string, text: string): boolean {
  try {
    return new RegExp(pattern).test(text);
  } catch {
    return true;
  }
}

/** A text as a regular expression that matches nothing else. */
export const escaped = (text: string): string => text.replace(/[\\^$.*+?()[\]{}|]/g, '\\$&');
