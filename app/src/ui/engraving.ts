import {
  Accidental,
  Barline,
  Beam,
  Dot,
  Formatter,
  Fraction,
  Renderer,
  Stave,
  StaveNote,
  StaveTie,
  Tuplet,
  Voice,
  Volta,
  type RenderContext,
} from 'vexflow/bravura';
import type { LeadSheet, SheetBar, SheetEvent } from '@fendro/core/notation/lead-sheet';
import { systemsOf, widthsIn } from '@fendro/core/notation/systems';
import type { Value } from '@fendro/core/notation/values';
import { chordSymbol, NO_CHORD } from '@fendro/core/theory/chord';
import { keySignature, type Key } from '@fendro/core/theory/key';
import { beatsOf, type Metre } from '@fendro/core/theory/metre';
import { octaveOf, typedName } from '@fendro/core/theory/pitch';
import { TICKS_PER_QUARTER } from '@fendro/core/theory/units';

/** Draws a lead sheet with the notes of an engraving library: a picture for each system, as wide as asked for. */

const DURATIONS: Readonly<Record<Value['name'], string>> = {
  whole: 'w',
  half: 'h',
  quarter: 'q',
  eighth: '8',
  '16th': '16',
  '32nd': '32',
};
/** Keys by the number of their signs, from seven flats to seven sharps. */
const SIGNATURES = ['Cb', 'Gb', 'Db', 'Ab', 'Eb', 'Bb', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F#', 'C#'] as const;
/** Rests stand on the middle line. */
const MIDDLE = { treble: 'b/4', bass: 'd/3' } as const;
/** Where the staff stands in a system, under chords, headings and brackets, and how high that is in all, in px. */
const [ABOVE, HEIGHT] = [66, 158];
/** How far above the staff, or above what reaches higher, chords stand; and how high at the most. */
const [CHORDS_ABOVE, CHORDS_AT_MOST] = [7, 30];
/** What a bar needs beside its notes, and in all. */
const [MARGIN, LEAST] = [26, 90];
/** What a clef, a signature and a metre need. */
const [CLEF, SIGN, METRE] = [42, 10, 30];

/** What holds in a bar, told there or before. */
interface InForce {
  readonly key: Key;
  readonly metre: Metre;
}

/** A bar with its notes as they will be drawn. */
interface Drawn {
  readonly bar: SheetBar;
  readonly force: InForce;
  readonly notes: readonly StaveNote[];
  readonly voice: Voice;
  readonly beams: readonly Beam[];
  readonly tuplets: readonly Tuplet[];
  readonly needs: number;
}

const signatureOf = (key: Key): string => SIGNATURES[keySignature(key).accidentals + 7] ?? 'C';

function noteOf(event: SheetEvent, clef: LeadSheet['clef'], fills: boolean): StaveNote {
  const { pitches, spelled, value } = event;
  const rest = pitches.length === 0;
  const duration = (rest && fills ? 'w' : DURATIONS[value.name]) + (rest ? 'r' : '');
  const keys = rest
    ? [MIDDLE[clef]]
    : pitches.map((pitch, index) => {
        const name = spelled[index] ?? 0;
        return `${typedName(name)}/${octaveOf(pitch, name)}`;
      });
  const note = new StaveNote({ clef, keys, duration, auto_stem: true, align_center: rest && fills });
  if (value.dots > 0 && !(rest && fills)) Dot.buildAndAttach([note], { all: true });
  return note;
}

/** Groups of three in the time of two, by where they begin and end. */
function tupletsOf(events: readonly SheetEvent[], notes: readonly StaveNote[]): Tuplet[] {
  const found: Tuplet[] = [];
  let begun = -1;
  events.forEach(({ tuplet }, index) => {
    if (tuplet === 'start') begun = index;
    if (tuplet !== 'stop' || begun < 0) return;
    found.push(new Tuplet(notes.slice(begun, index + 1), { num_notes: 3, notes_occupied: 2 }));
    begun = -1;
  });
  return found;
}

function drawnBar(bar: SheetBar, force: InForce, clef: LeadSheet['clef']): Drawn {
  const fills = bar.events.length === 1;
  const notes = bar.events.map((event) => noteOf(event, clef, fills));
  const tuplets = tupletsOf(bar.events, notes);
  const groups = beatsOf(force.metre).map(({ length }) => new Fraction(length, 4 * TICKS_PER_QUARTER));
  const beams = Beam.generateBeams([...notes], { groups });
  const voice = new Voice({ num_beats: force.metre.beats, beat_value: force.metre.unit });
  voice.setMode(Voice.Mode.SOFT).addTickables([...notes]);
  Accidental.applyAccidentals([voice], signatureOf(force.key));
  const needs = Math.max(LEAST, new Formatter().joinVoices([voice]).preCalculateMinTotalWidth([voice]) + MARGIN);
  return { bar, force, notes, voice, beams, tuplets, needs };
}

/** What holds in each bar. */
function inForce(bars: readonly SheetBar[]): readonly InForce[] {
  let [key, metre] = [bars[0]?.key ?? null, bars[0]?.metre ?? null];
  return bars.map((bar) => {
    [key, metre] = [bar.key ?? key, bar.metre ?? metre];
    return { key: key ?? { tonic: 0, scale: 'major' }, metre: metre ?? { beats: 4, unit: 4, groups: [2, 2] } };
  });
}

/** What stands before the notes of a bar. */
function before({ bar, force }: Drawn, first: boolean): number {
  const signs = first || bar.key ? SIGN * Math.abs(keySignature(force.key).accidentals) : 0;
  return (first ? CLEF : 0) + signs + (bar.metre ? METRE : 0);
}

function staveOf(drawn: Drawn, { x, width, first, last, clef }: Placed): Stave {
  const { bar, force } = drawn;
  const stave = new Stave(x, ABOVE, width, { space_above_staff_ln: 0 });
  if (first) stave.addClef(clef);
  if (first || bar.key) stave.addKeySignature(signatureOf(force.key));
  if (bar.metre) stave.addTimeSignature(`${bar.metre.beats}/${bar.metre.unit}`);
  if (bar.opens) stave.setBegBarType(Barline.type.REPEAT_BEGIN);
  if (bar.plays > 0) stave.setEndBarType(Barline.type.REPEAT_END);
  else if (last) stave.setEndBarType(Barline.type.END);
  const bracket = { start: Volta.type.BEGIN, stop: Volta.type.END, both: Volta.type.BEGIN_END };
  if (bar.ending !== null)
    stave.setVoltaType(bar.bracket ? bracket[bar.bracket] : Volta.type.MID, `${bar.ending}.`, -28);
  return stave;
}

interface Placed {
  readonly x: number;
  readonly width: number;
  /** True of the first bar of a system, and of the last of the sheet. */
  readonly first: boolean;
  readonly last: boolean;
  readonly clef: LeadSheet['clef'];
}

/** Where a moment of a bar stands: at the note that begins there, or between two of them. */
function placeOf({ bar, notes }: Drawn, at: number, stave: Stave): number {
  const index = bar.events.findLastIndex((event) => event.start <= at);
  const event = bar.events[Math.max(0, index)];
  const note = notes[Math.max(0, index)];
  if (!event || !note) return stave.getNoteStartX();
  const here = bar.events.length === 1 ? stave.getNoteStartX() : note.getAbsoluteX();
  const next = notes[index + 1]?.getAbsoluteX() ?? stave.getNoteEndX();
  return here + ((next - here) * Math.max(0, at - event.start)) / event.duration;
}

/** Where the chords of a system stand: above all of its notes. */
function chordLine(row: readonly Drawn[]): number {
  const tops = row.flatMap(({ notes }) => notes.map((note) => note.getBoundingBox().getY()));
  return Math.max(CHORDS_AT_MOST, Math.min(ABOVE, ...tops) - CHORDS_ABOVE);
}

function writeWords(context: RenderContext, drawn: Drawn, stave: Stave, font: string, line: number): void {
  const { bar } = drawn;
  context.setFont(font, 15, 600);
  for (const { at, chord } of bar.chords)
    context.fillText(chord ? chordSymbol(chord) : NO_CHORD, placeOf(drawn, at, stave), line);
  const x = stave.getX();
  if (bar.heading !== null) {
    context.setFont(font, 13, 600);
    context.fillText(bar.heading, x, 14);
  }
  if (bar.tempo !== null) {
    context.setFont(font, 12, 400);
    const after = bar.heading === null ? 0 : context.measureText(bar.heading).width * 1.25 + 14;
    context.fillText(`♩ = ${Math.round(bar.tempo)}`, x + after, 14);
  }
}

/** Everything in the colour of the page's own text: the library draws in black and grey. */
function inOwnColour(svg: SVGElement): void {
  for (const element of svg.querySelectorAll('*'))
    for (const name of ['fill', 'stroke'])
      if (!['none', null].includes(element.getAttribute(name))) element.setAttribute(name, 'currentColor');
}

/**
 * Draws a lead sheet.
 *
 * @param into   a place of its own for each system is made here
 * @param width  of a system, in px; its picture is as wide as the place that it has
 * @param font   for chords and headings
 */
export function engrave(sheet: LeadSheet, into: HTMLElement, width: number, font: string): void {
  const forces = inForce(sheet.bars);
  const bars = sheet.bars.map((bar, index) => drawnBar(bar, forces[index] as InForce, sheet.clef));
  const needs = bars.map((drawn) => drawn.needs + before(drawn, false));
  const begins = bars.map(({ bar }) => bar.heading !== null);
  const systems = systemsOf(needs, width - CLEF - 7 * SIGN, begins);
  let open: { readonly note: StaveNote; readonly event: SheetEvent } | null = null;
  for (const { from, to } of systems) {
    const row = bars.slice(from, to);
    const place = into.ownerDocument.createElement('div');
    into.append(place);
    const renderer = new Renderer(place, Renderer.Backends.SVG);
    renderer.resize(width, HEIGHT);
    const context = renderer.getContext();
    const widths = widthsIn(
      row.map((drawn, index) => ({ before: before(drawn, index === 0), notes: drawn.needs })),
      width - 2,
      to < bars.length,
    );
    const staves: Stave[] = [];
    let x = 1;
    row.forEach((drawn, index) => {
      const own = widths[index] as number;
      const last = from + index === bars.length - 1;
      const stave = staveOf(drawn, { x, width: own, first: index === 0, last, clef: sheet.clef });
      stave.setContext(context).draw();
      new Formatter().joinVoices([drawn.voice]).formatToStave([drawn.voice], stave);
      drawn.voice.draw(context, stave);
      for (const mark of [...drawn.beams, ...drawn.tuplets]) mark.setContext(context).draw();
      drawn.notes.forEach((note, at) => {
        const event = drawn.bar.events[at] as SheetEvent;
        const comes = index === 0 && at === 0 && open !== null ? null : (open?.note ?? null);
        if (event.tied) tie(comes, note, event.pitches.length, context);
        open = event.goesOn ? { note, event } : null;
        const leaves = event.goesOn && at === drawn.notes.length - 1 && index === row.length - 1;
        if (leaves) tie(note, null, event.pitches.length, context);
      });
      staves.push(stave);
      x += own;
    });
    const line = chordLine(row);
    row.forEach((drawn, index) => {
      writeWords(context, drawn, staves[index] as Stave, font, line);
    });
    const svg = place.querySelector('svg');
    if (!svg) continue;
    svg.setAttribute('viewBox', `0 0 ${width} ${HEIGHT}`);
    svg.setAttribute('aria-hidden', 'true');
    // The page says how large it is.
    for (const side of ['width', 'height']) {
      svg.removeAttribute(side);
      svg.style.removeProperty(side);
    }
    inOwnColour(svg);
  }
}

/** A tie from one note to the next; from or to the edge of a system where one of them is in another. */
function tie(from: StaveNote | null, to: StaveNote | null, count: number, context: RenderContext): void {
  const indices = Array.from({ length: count }, (_, index) => index);
  new StaveTie({ first_note: from, last_note: to, first_indices: indices, last_indices: indices })
    .setContext(context)
    .draw();
}
