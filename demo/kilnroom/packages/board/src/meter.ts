/** The meter of the studio's power line. */
export const meter = {
  async reading(): Promise<number> {
    const answer = await fetch('/meter');
    return Number(await answer.text());
  },
};
