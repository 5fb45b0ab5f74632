import { Injectable } from '@angular/core';

export interface Firing {
  id: number;
  kiln: string;
  cone?: number;
  failed?: boolean;
}

@Injectable({ providedIn: 'root' })
export class FiringService {
  private firings: Firing[] = [];

  add(firing: Firing): void {
    this.firings.push(firing);
  }

  all(): readonly Firing[] {
    return this.firings;
  }

  forget(): void {
    this.firings = [];
  }
}
