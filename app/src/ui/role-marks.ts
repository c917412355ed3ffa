import type { NoteRole } from '@fendro/core/study/note-roles';
import type { Outline } from './note-shape';

/** What each role of a note looks like over it, and how the sign is called; chord notes need none. */
export const ROLE_SIGNS: Readonly<Record<Exclude<NoteRole, 'chord note'>, string>> = {
  passing: 'slope',
  neighbour: 'peak',
  suspension: 'bar',
  anticipation: 'arrow',
  appoggiatura: 'wedge',
  colour: 'dot',
  escape: 'ring',
  free: 'cross',
};

type Line = readonly (readonly [x: number, y: number])[];

/** Strokes of each sign in a box of 6 by 6. */
const STROKES: Readonly<Record<Exclude<NoteRole, 'chord note'>, readonly Line[]>> = {
  passing: [
    [
      [0, 5],
      [6, 1],
    ],
  ],
  neighbour: [
    [
      [0, 5],
      [3, 1],
      [6, 5],
    ],
  ],
  suspension: [
    [
      [0, 3],
      [6, 3],
    ],
    [
      [0, 1],
      [0, 5],
    ],
  ],
  anticipation: [
    [
      [0, 3],
      [6, 3],
    ],
    [
      [3, 0.5],
      [6, 3],
      [3, 5.5],
    ],
  ],
  appoggiatura: [
    [
      [0, 1],
      [6, 3],
      [0, 5],
      [0, 1],
    ],
  ],
  colour: [
    [
      [2, 3],
      [3, 2],
      [4, 3],
      [3, 4],
      [2, 3],
      [4, 3],
    ],
  ],
  escape: [
    [
      [3, 0.5],
      [5.5, 3],
      [3, 5.5],
      [0.5, 3],
      [3, 0.5],
    ],
  ],
  free: [
    [
      [0.5, 0.5],
      [5.5, 5.5],
    ],
    [
      [5.5, 0.5],
      [0.5, 5.5],
    ],
  ],
};

/** Adds a role's sign to an outline, its lower left corner at a place in px; chord notes have none. */
export function outlineRoleSign(outline: Outline, role: NoteRole, x: number, y: number): void {
  if (role === 'chord note') return;
  for (const line of STROKES[role])
    line.forEach(([dx, dy], index) => {
      if (index === 0) outline.moveTo(x + dx, y - 6 + dy);
      else outline.lineTo(x + dx, y - 6 + dy);
    });
}

/** The signs as an SVG path, for the legend. */
export const signPath = (role: Exclude<NoteRole, 'chord note'>): string =>
  STROKES[role].map((line) => line.map(([x, y], index) => `${index === 0 ? 'M' : 'L'}${x} ${y}`).join('')).join('');
