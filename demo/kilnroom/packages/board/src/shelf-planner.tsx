import { useState } from 'react';

export interface ShelfPlannerProps {
  shelves: number;
  pieces: string[];
}

/** Spreads pieces over the shelves of a kiln. */
export function ShelfPlanner({ shelves, pieces }: ShelfPlannerProps) {
  const [plan, setPlan] = useState<string[][]>([]);

  const spread = () => {
    const next = Array.from({ length: shelves }, () => [] as string[]);
    pieces.forEach((piece, i) => next[i % shelves]?.push(piece));
    setPlan(next);
  };

  return (
    <section aria-label="Shelf plan">
      <button type="button" onClick={spread}>
        Plan the shelves
      </button>
      {plan.map((shelf, i) => (
        <p key={i}>
          Shelf {i + 1}: {shelf.join(', ')}
        </p>
      ))}
    </section>
  );
}
