import { pathRound, scaleLinear, type Path } from 'd3';
import { endOf } from '@fendro/core/shaping/room';
import type { ChordSpan, Note } from '@fendro/core/song/schema';
import type { NoteRole } from '@fendro/core/study/note-roles';
import type { Ticks } from '@fendro/core/theory/units';
import type { Size } from './canvas';
import { inDrumOrder } from './drum-rows';
import { isStroked, outlineNote, STROKE, type NoteShape } from './note-shape';
import { outlineRoleSign } from './role-marks';
import { timeScale, type TimeScale } from './time-scale';

/** A picture of notes between two ticks, before it is drawn. */
export interface NoteScene {
  readonly notes: readonly Note[];
  readonly from: Ticks;
  readonly to: Ticks;
  readonly bar: Ticks;
  readonly colour: number;
  readonly shape: NoteShape;
  readonly chords: readonly ChordSpan[];
  /** Places in the list of notes, as are those of held and picked notes: marked as rubbing against the chords. */
  readonly marks: readonly number[];
  readonly held: readonly number[];
  readonly picked: readonly number[];
  /** The role of each note, in the order of the notes. */
  readonly roles: readonly NoteRole[];
  /** Notes of another take, drawn hollow over these. */
  readonly hollow: readonly Note[];
  readonly tentative: boolean;
  readonly size: Size;
}

/** Everything of one colour, as an SVG path: filled, or stroked where it has a width. Colours are names of tokens. */
export interface Layer {
  readonly path: string;
  readonly token: string;
  /** Width of the stroke, in px. */
  readonly stroke?: number;
  /** 0 to 1. */
  readonly opacity?: number;
}

/** Where pitches lie, and how high their notes are, in px. */
interface Row {
  readonly y: (pitch: number) => number;
  readonly height: number;
}

/** Where a note lies, in px. */
interface Box {
  readonly left: number;
  /** Its middle. */
  readonly y: number;
  readonly width: number;
}

type Plan = NoteScene & { readonly x: TimeScale; readonly row: Row };

/** How far beside a note a pointer may be that means it, in px. */
const REACH = 3;

/** Digits after the point in paths: a hundredth of a px. */
const DIGITS = 2;

const isIn = ({ from, to }: NoteScene, note: Pick<Note, 'start' | 'duration'>): boolean =>
  note.start < to && endOf(note) > from;

const planOf = (scene: NoteScene): Plan => ({
  ...scene,
  x: timeScale(scene.from, scene.to, scene.size.width),
  row: rowOf(scene),
});

/**
 * Draws a picture of notes.
 *
 * @returns its layers, the lowest first, none of them empty; no layers where it has no room
 */
export function layersOf(scene: NoteScene): readonly Layer[] {
  if (scene.size.width === 0 || scene.size.height === 0) return [];
  const plan = planOf(scene);
  return [
    layer('--band-even', {}, (path) => addBands(path, plan, 0)),
    layer('--band-odd', {}, (path) => addBands(path, plan, 1)),
    layer('--line', {}, (path) => addBarLines(path, plan)),
    layer(
      `--part-${plan.colour}`,
      { ...(isStroked(plan.shape) ? { stroke: STROKE } : {}), ...(plan.tentative ? { opacity: 0.8 } : {}) },
      (path) => addNotes(path, plan),
    ),
    layer('--ink', { stroke: 1 }, (path) => addHollow(path, plan)),
    layer('--surface', { stroke: 1.5 }, (path) => addHatches(path, plan)),
    layer('--ink', {}, (path) => addHeld(path, plan)),
    layer('--ink', { stroke: 2 }, (path) => addPicked(path, plan)),
    layer('--ink', { stroke: 1.3 }, (path) => addRoles(path, plan)),
    layer('--alert', { stroke: 1.6 }, (path) => addMarks(path, plan)),
  ].filter(({ path }) => path !== '');
}

function layer(token: string, look: Pick<Layer, 'stroke' | 'opacity'>, add: (path: Path) => void): Layer {
  const path = pathRound(DIGITS);
  add(path);
  return { path: path.toString(), token, ...look };
}

/** @returns the place in the list of the note under a point of the picture, in px; null where there is none */
export function noteUnder(scene: NoteScene, left: number, top: number): number | null {
  if (scene.size.width === 0 || scene.size.height === 0) return null;
  const plan = planOf(scene);
  const hits = scene.notes.flatMap((_, index) => {
    const box = boxOf(plan, index);
    const away = box ? Math.abs(box.y - top) : Infinity;
    return box &&
      left >= box.left - REACH &&
      left <= box.left + box.width + REACH &&
      away <= plan.row.height / 2 + REACH
      ? [{ index, away }]
      : [];
  });
  return hits.sort((a, b) => a.away - b.away)[0]?.index ?? null;
}

function rowOf({ shape, notes, hollow, size: { height } }: NoteScene): Row {
  const margin = 3;
  const pitches = [...notes, ...hollow].map(({ pitch }) => pitch);
  if (shape === 'dot') {
    // Drums are drawn in rows of their own rather than by pitch.
    const used = inDrumOrder(pitches);
    const step = (height - 2 * margin) / Math.max(1, used.length);
    return { y: (pitch) => margin + (used.indexOf(pitch) + 0.5) * step, height: Math.min(4, step) };
  }
  // The range is that of the whole take, so that its systems share one scale.
  const [lowest, highest] = [Math.min(...pitches, 127), Math.max(...pitches, 0)];
  const middle = pitches.length > 0 ? (lowest + highest) / 2 : 60;
  const [low, high] = [Math.min(lowest, middle - 4), Math.max(highest, middle + 4)];
  const y = scaleLinear([low, high], [height - margin - 2, margin + 2]);
  return { y: (pitch) => y(pitch), height: Math.max(3, Math.min(6, (height - 2 * margin) / (high - low + 1))) };
}

/** Where a note of the list lies; null where it is out of the picture. */
function boxOf(plan: Plan, index: number): Box | null {
  const note = plan.notes[index];
  if (!note || !isIn(plan, note)) return null;
  const [left, y] = [plan.x(note.start), plan.row.y(note.pitch)];
  if (plan.shape === 'dot') return { left: left - 3, y, width: 6 };
  return { left, y, width: Math.max(3, plan.x(endOf(note)) - left - 1) };
}

const boxesOf = (plan: Plan, places: readonly number[]): readonly Box[] =>
  places.map((place) => boxOf(plan, place)).filter((box) => box !== null);

/** Every other chord, from the first or the second on. */
function addBands(path: Path, plan: Plan, first: 0 | 1): void {
  const { chords, x, size } = plan;
  chords.forEach((span, index) => {
    if (index % 2 === first && isIn(plan, span))
      path.rect(x(span.start), 0, x(endOf(span)) - x(span.start), size.height);
  });
}

function addBarLines(path: Path, { from, to, bar, x, size }: Plan): void {
  for (let at = Math.ceil(from / bar) * bar; at <= to; at += bar)
    path.rect(Math.min(size.width - 1, Math.round(x(at))), 0, 1, size.height);
}

function addNotes(path: Path, plan: Plan): void {
  for (const note of plan.notes) {
    if (!isIn(plan, note)) continue;
    const left = plan.x(note.start);
    const width = Math.max(2, plan.x(endOf(note)) - 1 - left);
    outlineNote(path, plan.shape, left, plan.row.y(note.pitch), width, plan.row.height, note.velocity);
  }
}

function addHollow(path: Path, plan: Plan): void {
  const { x, row } = plan;
  for (const note of plan.hollow) {
    if (!isIn(plan, note)) continue;
    const left = x(note.start);
    const width = Math.max(3, x(endOf(note)) - left - 1);
    path.rect(left + 0.5, row.y(note.pitch) - row.height / 2 - 0.5, width, row.height + 1);
  }
}

/** A hatch across each held note, as over held bars. */
function addHatches(path: Path, plan: Plan): void {
  for (const { left, y, width } of boxesOf(plan, plan.held)) {
    const [top, bottom] = [y - plan.row.height / 2 - 1, y + plan.row.height / 2 + 1];
    for (let at = left + 3; at < left + width; at += 5) {
      path.moveTo(at, bottom);
      path.lineTo(at + 3, top);
    }
  }
}

function addHeld(path: Path, plan: Plan): void {
  for (const { left, y, width } of boxesOf(plan, plan.held)) path.rect(left, y + plan.row.height / 2 + 2, width, 1.5);
}

function addPicked(path: Path, plan: Plan): void {
  for (const { left, y, width } of boxesOf(plan, plan.picked))
    path.rect(left - 2, y - plan.row.height / 2 - 3, width + 4, plan.row.height + 6);
}

/** What each note does against its chord: a sign over all but chord notes. */
function addRoles(path: Path, plan: Plan): void {
  plan.roles.forEach((role, index) => {
    const note = plan.notes[index];
    if (!note || !isIn(plan, note)) return;
    const y = plan.row.y(note.pitch);
    // No room above: the sign stands below.
    outlineRoleSign(path, role, plan.x(note.start), y - 4 < 8 ? y + 11 : y - 4);
  });
}

/** A small peak over each marked note. */
function addMarks(path: Path, plan: Plan): void {
  for (const mark of plan.marks) {
    const note = plan.notes[mark];
    if (!note || !isIn(plan, note)) continue;
    const [left, top] = [plan.x(note.start), plan.row.y(note.pitch) - 9];
    path.moveTo(left, top + 4);
    path.lineTo(left + 4, top);
    path.lineTo(left + 8, top + 4);
  }
}
