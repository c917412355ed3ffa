import * as fc from 'fast-check';
import { JSDOM } from 'jsdom';
import { leadSheet, usualLead } from '../../notation/lead-sheet';
import { scoreWith } from '../../testing/scores';
import { songOverChords } from '../../testing/sheets';
import { musicOf } from '../../testing/sounding';
import { METRES } from '../../theory/metre';
import { musicXml } from './musicxml';

interface Element {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: readonly Element[];
  readonly text: string;
}

/** As much of a parsed document as is looked at. */
interface DomNode {
  readonly nodeName: string;
  readonly textContent: string | null;
  readonly attributes: Iterable<{ readonly name: string; readonly value: string }>;
  readonly children: Iterable<DomNode>;
}

/** The elements of a document, as a browser reads it. */
function parsed(xml: string): Element {
  const of = (node: DomNode): Element => ({
    name: node.nodeName,
    attributes: Object.fromEntries([...node.attributes].map(({ name, value }) => [name, value])),
    children: [...node.children].map(of),
    text: node.textContent ?? '',
  });
  return of(new JSDOM(xml, { contentType: 'application/xml' }).window.document.documentElement);
}

/** In which order the standard has the children of each element; those of a measure come in any. */
const ORDERS: Readonly<Record<string, readonly string[]>> = {
  'score-partwise': ['work', 'identification', 'part-list', 'part'],
  work: ['work-title'],
  identification: ['encoding'],
  encoding: ['software'],
  'part-list': ['score-part'],
  'score-part': ['part-name'],
  part: ['measure'],
  attributes: ['divisions', 'key', 'time', 'clef'],
  key: ['fifths', 'mode'],
  time: ['beats', 'beat-type'],
  clef: ['sign', 'line'],
  harmony: ['root', 'kind', 'bass', 'degree', 'offset'],
  root: ['root-step', 'root-alter'],
  bass: ['bass-step', 'bass-alter'],
  degree: ['degree-value', 'degree-alter', 'degree-type'],
  note: ['chord', 'pitch', 'rest', 'duration', 'tie', 'voice', 'type', 'dot', 'time-modification', 'notations'],
  pitch: ['step', 'alter', 'octave'],
  'time-modification': ['actual-notes', 'normal-notes'],
  notations: ['tied', 'tuplet'],
  direction: ['direction-type', 'sound'],
  'direction-type': ['rehearsal', 'metronome'],
  metronome: ['beat-unit', 'per-minute'],
  barline: ['bar-style', 'ending', 'repeat'],
};
const MEASURE = ['note', 'harmony', 'attributes', 'direction', 'barline'];

function check(element: Element): void {
  const names = element.children.map(({ name }) => name);
  if (element.name === 'measure') expect(names.filter((name) => !MEASURE.includes(name))).toEqual([]);
  else if (names.length > 0) {
    const order = ORDERS[element.name];
    expect({ of: element.name, known: order !== undefined }).toEqual({ of: element.name, known: true });
    const places = names.map((name) => order!.indexOf(name));
    expect({
      of: element.name,
      names,
      inOrder: places.every((place, at) => place >= 0 && place >= (places[at - 1] ?? 0)),
    }).toEqual({ of: element.name, names, inOrder: true });
  }
  element.children.forEach(check);
}

const child = (element: Element, name: string): Element | undefined =>
  element.children.find((each) => each.name === name);
const all = (element: Element, name: string): Element[] => [
  ...(element.name === name ? [element] : []),
  ...element.children.flatMap((each) => all(each, name)),
];

const written = (
  seed: number,
  change: Parameters<typeof scoreWith>[2] = {},
  title = 'Mast in the Fog',
): Element | null => {
  const { score: drafted, takes } = scoreWith(seed, 0, change);
  const score = {
    ...drafted,
    title,
    order: [...drafted.order, ...drafted.order.map((place) => ({ ...place, id: `${place.id} again` }))],
  };
  const sheet = leadSheet(musicOf(score, takes), usualLead(score)!);
  return sheet && parsed(musicXml(sheet));
};

describe('a lead sheet as MusicXML', () => {
  it('has its elements in the order of the standard, and bars that add up, in any metre', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 300 }),
        fc.constantFrom(...METRES),
        fc.integer({ min: -6, max: 6 }),
        (seed, metre, tonic) => {
          const score = written(seed, { metre, tonic });
          if (!score) return;
          check(score);
          for (const measure of all(score, 'measure')) {
            const length = measure.children
              .filter(({ name }) => name === 'note')
              .filter((note) => !child(note, 'chord'))
              .reduce((sum, note) => sum + Number(child(note, 'duration')!.text), 0);
            if (measure.attributes['implicit'] !== 'yes') expect(length).toBe((metre.beats * 4 * 480) / metre.unit);
            else expect(length).toBeLessThan((metre.beats * 4 * 480) / metre.unit);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('pairs ties, triplets, repeats and endings', () => {
    for (let seed = 1; seed <= 30; seed++) {
      const score = written(seed);
      if (!score) continue;
      const count = (name: string, type: string): number =>
        all(score, name).filter(({ attributes }) => attributes['type'] === type).length;
      for (const name of ['tie', 'tied', 'tuplet']) expect(count(name, 'start')).toBe(count(name, 'stop'));
      const repeats = all(score, 'repeat').map(({ attributes }) => attributes['direction']);
      expect(repeats.filter((way) => way === 'forward')).toHaveLength(
        repeats.filter((way) => way === 'backward').length,
      );
      expect(repeats.length).toBeGreaterThan(0);
    }
  });

  it('names chords by their kinds, and by the degrees in which they differ', () => {
    const music = songOverChords(['Am7', 'C/E', 'F#m7b5', 'G7b9', 'Csus4', 'Cadd9', 'N.C.', 'E7#9']);
    const sheet = leadSheet(music, usualLead(music.score)!)!;
    const found = all(parsed(musicXml(sheet)), 'harmony').slice(0, 8);
    expect(
      found.map((each) => [
        child(each, 'kind')!.text,
        child(child(each, 'root')!, 'root-step')!.text + (child(child(each, 'root')!, 'root-alter')?.text ?? ''),
        child(each, 'bass')
          ?.children.map(({ text }) => text)
          .join('') ?? '',
        all(each, 'degree')
          .map((degree) => degree.children.map(({ text }) => text).join(' '))
          .join(),
      ]),
    ).toEqual([
      ['minor-seventh', 'A', '', ''],
      ['major', 'C', 'E', ''],
      ['half-diminished', 'F1', '', ''],
      ['dominant', 'G', '', '9 -1 add'],
      ['suspended-fourth', 'C', '', ''],
      ['major', 'C', '', '9 0 add'],
      ['none', 'C', '', ''],
      ['dominant', 'E', '', '9 1 add'],
    ]);
  });

  it('writes what is lower than the standard has a name for in its lowest octave', () => {
    const { score, takes } = scoreWith(2, 0);
    const lead = usualLead(score)!;
    const low = Object.fromEntries(
      Object.entries(takes).map(([id, take]) => [
        id,
        take.of === 'part' ? { ...take, notes: take.notes.map((note) => ({ ...note, pitch: note.pitch % 12 })) } : take,
      ]),
    );
    const octaves = all(parsed(musicXml(leadSheet(musicOf(score, low), lead)!)), 'octave').map(({ text }) => text);
    expect(new Set(octaves)).toEqual(new Set(['0']));
  });

  it('carries names in any script, and leaves out what XML has no sign for', () => {
    const score = written(2, {}, 'Буря & <嵐> \u0001🌩')!;
    expect(child(child(score, 'work')!, 'work-title')!.text).toBe('Буря & <嵐> 🌩');
  });
});
