import type { ProjectCheck } from '../questions/check.js';

const message = (reason: string): string => `This spec file could not be read: ${reason}.`;
const advice = 'Mend the file: none of its specs runs as it is.';

/** A spec file that can't be parsed. */
export const E19: ProjectCheck = {
  code: 'E19',
  family: 'environment',
  scope: 'project',
  title: 'Spec or settings file that could not be read',
  level: 'blocker',
  why: 'The runner can read it as little as we can: none of its specs runs.',
  certain: 'Sure where the file itself says so.',
  trouble: "it('fires', () => {\n  expect(kiln.temp).toBe(;\n});",
  mended: "it('fires', () => {\n  expect(kiln.temp).toBe(1200);\n});",
  run: ({ unreadSpecs, sourceOf }) =>
    unreadSpecs.flatMap(({ file, reason, line }) => {
      const start = sourceOf(file)?.lines.startOf(line ?? 1) ?? 0;
      return [
        { place: { file, start, end: start }, certainty: 'sure' as const, message: message(reason), advice },
      ];
    }),
};
