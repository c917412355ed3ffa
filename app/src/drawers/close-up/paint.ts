import type { ChordSpan, Note } from '@fendro/core/song/schema';
import { endOf, type Ids, type Notes } from '@fendro/core/shaping/room';
import { chordMask } from '@fendro/core/theory/chord';
import { inMask } from '@fendro/core/theory/pitch';
import { range, type Ticks } from '@fendro/core/theory/units';
import { isStroked, outlineNote, STROKE, type NoteShape } from '../../ui/note-shape';
import type { TimeScale } from '../../ui/time-scale';
import type { Row, Rows } from './row-layout';

/** Draws the close-up on a canvas. */

/** Notes that stand behind those that are edited. */
interface Behind {
  readonly notes: readonly Note[];
  readonly colour: number;
}

export interface Picture {
  readonly notes: Notes;
  readonly picked: Ids;
  readonly cursor: number | null;
  readonly held: Ids;
  /** Notes that a drag takes along: they are drawn with the pointer. */
  readonly dragged: Ids;
  readonly behind: readonly Behind[];
  /** The chosen take's notes while another one is heard; drawn hollow. */
  readonly rival: readonly Note[];
  readonly chords: readonly ChordSpan[];
  readonly drums: boolean;
  readonly colour: number;
  readonly shape: NoteShape;
  readonly rows: Rows;
  /** The row under the pointer, which opens where it is a line. */
  readonly open: Row | null;
  readonly x: TimeScale;
  readonly from: Ticks;
  readonly to: Ticks;
  readonly bar: Ticks;
  readonly beat: Ticks;
  readonly snap: Ticks;
  readonly box: { readonly left: number; readonly top: number; readonly width: number; readonly height: number } | null;
}

type Pen = CanvasRenderingContext2D;
type Token = (name: string) => string;

/** Lines of the grid are drawn where they stand at least so far apart, in px. */
const GRID_PX = 9;
/** The least height of a note, whatever its row. */
const LEAST_NOTE = 6;

const seen = ({ from, to }: Picture, note: Pick<Note, 'start' | 'duration'>): boolean =>
  note.start < to && endOf(note) > from;

/** Where a note's row lies, opened where it is a line under the pointer; null where it is not in view. */
function stripeOf({ rows, open }: Pick<Picture, 'rows' | 'open'>, pitch: number): { y: number; height: number } | null {
  const row = rows.of(pitch);
  if (!row) return null;
  const height = open === row ? Math.max(row.height, 12) : row.height;
  return { y: row.top + row.height / 2, height: Math.max(LEAST_NOTE, height - 2) };
}

function drawGround(pen: Pen, token: Token, picture: Picture, width: number): void {
  const { rows, chords, x, bar, beat, snap, from, to } = picture;
  pen.fillStyle = token('--surface');
  pen.fillRect(0, 0, width, rows.height);
  if (picture.drums) drawStripes(pen, token, rows, width);
  else {
    chords.forEach(({ start, duration, chord }, index) => {
      if (!chord || start >= to || start + duration <= from) return;
      const mask = chordMask(chord);
      const [left, right] = [x(Math.max(start, from)), x(Math.min(start + duration, to))];
      pen.fillStyle = token(index % 2 === 0 ? '--sunk' : '--band-odd');
      for (const row of rows.all) if (inMask(mask, row.pitch)) pen.fillRect(left, row.top, right - left, row.height);
    });
  }
  pen.fillStyle = token('--line');
  for (const { kind, top, height } of rows.all) if (kind === 'full') pen.fillRect(0, top + height - 1, width, 1);
  const lines = (every: Ticks, colour: string, wide: number): void => {
    if (every <= 0 || x(from + every) - x(from) < GRID_PX) return;
    pen.fillStyle = token(colour);
    for (let at = Math.ceil(from / every) * every; at <= to; at += every)
      pen.fillRect(Math.round(x(at)) - wide / 2, 0, wide, rows.height);
  };
  pen.globalAlpha = 0.55;
  lines(snap, '--line', 1);
  pen.globalAlpha = 1;
  lines(beat, '--line', 1);
  lines(bar, '--edge', 1);
}

function drawStripes(pen: Pen, token: Token, rows: Rows, width: number): void {
  pen.fillStyle = token('--band-odd');
  rows.all.forEach(({ top, height }, index) => {
    if (index % 2 === 1) pen.fillRect(0, top, width, height);
  });
}

/** The open row under the pointer, and a line of a row where it is one. */
function drawOpen(pen: Pen, token: Token, { open, x, from, to }: Picture): void {
  if (!open) return;
  const height = Math.max(open.height, 12);
  pen.fillStyle = token('--shade');
  pen.fillRect(x(from), open.top + open.height / 2 - height / 2, x(to) - x(from), height);
}

/** A drum hit: a dot on its beat, larger where it is louder, hollow where it is left to chance. */
function drawHit(pen: Pen, left: number, y: number, { velocity, chance }: Note): void {
  const radius = 2.5 + (velocity / 127) * 4;
  pen.beginPath();
  pen.arc(left, y, radius, 0, 2 * Math.PI);
  if (chance === undefined) pen.fill();
  else {
    pen.lineWidth = 1.6;
    pen.setLineDash([2, 2]);
    pen.stroke();
    pen.setLineDash([]);
  }
}

function drawPitched(pen: Pen, picture: Picture, note: Note, box: Box): void {
  if (note.chance !== undefined) {
    pen.lineWidth = 1.4;
    pen.setLineDash([3, 2]);
    pen.strokeRect(box.left + 0.7, box.top + 0.7, Math.max(1, box.width - 1.4), box.height - 1.4);
    pen.setLineDash([]);
    // As much of it is full as it is likely.
    pen.globalAlpha = 0.6;
    pen.fillRect(box.left, box.top, (box.width * note.chance) / 100, box.height);
    pen.globalAlpha = 1;
  } else {
    pen.beginPath();
    outlineNote(pen, picture.shape, box.left, box.top + box.height / 2, box.width, box.height, note.velocity);
    pen.lineWidth = STROKE;
    if (isStroked(picture.shape)) pen.stroke();
    else pen.fill();
  }
}

/** Where a note lies on the canvas, in px. */
export interface Box {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

export function boxOf(picture: Pick<Picture, 'rows' | 'open' | 'x' | 'drums'>, note: Note): Box | null {
  const stripe = stripeOf(picture, note.pitch);
  if (!stripe) return null;
  const left = picture.x(note.start);
  const top = stripe.y - stripe.height / 2;
  if (picture.drums) return { left: left - 7, top, width: 14, height: stripe.height };
  return { left, top, width: Math.max(3, picture.x(endOf(note)) - left - 1), height: stripe.height };
}

function drawNotes(pen: Pen, token: Token, picture: Picture, notes: Notes): void {
  const { held, x, colour } = picture;
  for (const note of notes) {
    if (!seen(picture, note)) continue;
    const box = boxOf(picture, note);
    if (!box) continue;
    pen.fillStyle = pen.strokeStyle = token(`--part-${colour}`);
    const middle = box.top + box.height / 2;
    if (picture.drums) drawHit(pen, x(note.start), middle, note);
    else drawPitched(pen, picture, note, box);
    if (note.strikes !== undefined) {
      pen.fillStyle = token('--surface');
      for (const stroke of range(note.strikes - 1))
        pen.fillRect(box.left + (box.width * (stroke + 1)) / note.strikes, box.top, 1.5, box.height);
    }
    if (!held.has(note.id)) continue;
    pen.fillStyle = token('--ink');
    pen.fillRect(box.left, box.top + box.height + 0.5, box.width, 1.5);
  }
}

function drawPicked(pen: Pen, token: Token, picture: Picture, notes: Notes): void {
  const { picked, cursor } = picture;
  pen.strokeStyle = token('--ink');
  for (const note of notes) {
    const box = picked.has(note.id) && seen(picture, note) ? boxOf(picture, note) : null;
    if (!box) continue;
    pen.lineWidth = note.id === cursor ? 2.5 : 1.5;
    pen.strokeRect(box.left - 1.5, box.top - 1.5, box.width + 3, box.height + 3);
  }
}

function drawBehind(pen: Pen, token: Token, picture: Picture): void {
  pen.globalAlpha = 0.24;
  for (const { notes, colour } of picture.behind) {
    pen.fillStyle = token(`--part-${colour}`);
    for (const note of notes) {
      const box = seen(picture, note) ? boxOf(picture, note) : null;
      if (box) pen.fillRect(box.left, box.top + 1, box.width, box.height - 2);
    }
  }
  pen.globalAlpha = 1;
  pen.strokeStyle = token('--ink');
  pen.lineWidth = 1;
  for (const note of picture.rival) {
    const box = seen(picture, note) ? boxOf(picture, note) : null;
    if (box) pen.strokeRect(box.left + 0.5, box.top + 0.5, box.width - 1, box.height - 1);
  }
}

/** Draws what stays while the pointer moves: the rows, what stands behind, and all notes but those that are dragged. */
export function paintGround(pen: Pen, token: Token, picture: Picture, width: number): void {
  drawGround(pen, token, picture, width);
  drawBehind(pen, token, picture);
  const { notes, dragged } = picture;
  drawNotes(pen, token, picture, dragged.size === 0 ? notes : notes.filter(({ id }) => !dragged.has(id)));
}

/** Draws what goes with the pointer, over the ground: the open row, what is dragged and picked, the box. */
export function paintHand(pen: Pen, token: Token, picture: Picture, moved: Notes): void {
  drawOpen(pen, token, picture);
  if (moved.length > 0) drawNotes(pen, token, picture, moved);
  drawPicked(pen, token, picture, moved.length > 0 ? moved : picture.notes);
  const { box } = picture;
  if (!box) return;
  pen.fillStyle = token('--shade');
  pen.fillRect(box.left, box.top, box.width, box.height);
  pen.strokeStyle = token('--accent');
  pen.lineWidth = 1;
  pen.strokeRect(box.left + 0.5, box.top + 0.5, box.width, box.height);
}
