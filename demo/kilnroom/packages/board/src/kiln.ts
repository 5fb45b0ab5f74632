/** A kiln with its temperature in degrees Celsius. */
export class Kiln {
  temp = 20;
  cone: number | undefined;
  shelves: string[] = [];

  constructor(readonly name: string) {}

  load(piece: string): void {
    this.shelves.push(piece);
  }

  fire(cone: number): void {
    this.cone = cone;
    this.temp = 1000 + cone * 30;
  }

  get isSafe(): boolean {
    return this.temp < 60;
  }
}
