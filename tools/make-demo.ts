/**
 * Makes the demo song "Barometer Falling" with Fendro's own drafters from recorded seeds, so that the demo shows what
 * the engine does. Run: npm run demo. The result is committed; a test drafts every take again and compares.
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { requestFor } from '@fendro/core/compose/asking';
import { draftTakes } from '@fendro/core/compose/takes';
import { songLines, withHook } from '@fendro/core/compose/whole-song';
import { LEANINGS, type Leaning } from '@fendro/core/lean/words';
import { firstLoops } from '@fendro/core/patterns/first-pattern';
import { overOf, patternNotes } from '@fendro/core/patterns/pass';
import { choose, nameTake, remark } from '@fendro/core/song/edit';
import { bandOf, logLine } from '@fendro/core/song/logbook';
import { NOTHING_HEARD, sectionTicks } from '@fendro/core/song/resolve';
import { chosenId } from '@fendro/core/song/section';
import { openSong } from '@fendro/core/song/song-file';
import {
  HARMONY,
  SONG_VERSION,
  type HarmonyBrief,
  type Heard,
  type Lean,
  type Part,
  type Score,
  type Section,
  type SectionKind,
  type Song,
  type Take,
} from '@fendro/core/song/schema';
import { draftedTake, patternTake } from '@fendro/core/song/take';
import { newPart, newSection, partFrom } from '@fendro/core/styles/band';
import { styleOf } from '@fendro/core/styles/styles';
import { METRES } from '@fendro/core/theory/metre';

const SEED = 20_261;
const TAKES = 6;
const STYLE = styleOf('singer-songwriter');

interface Plan {
  readonly id: string;
  readonly kind: SectionKind;
  readonly bars: number;
  readonly harmony: Partial<HarmonyBrief>;
  /** Lines that play here, each with which of its takes was chosen. */
  readonly picks: Readonly<Record<string, number>>;
}

const PLANS: readonly Plan[] = [
  {
    id: 'intro',
    kind: 'intro',
    bars: 4,
    harmony: { cadence: 'open', first: 'Dm' },
    picks: { harmony: 0, guitar: 0, bass: 2 },
  },
  {
    id: 'verse',
    kind: 'verse',
    bars: 8,
    harmony: { cadence: 'open', first: 'Dm' },
    picks: { harmony: 0, melody: 0, guitar: 1, bass: 0, drums: 1 },
  },
  {
    id: 'chorus',
    kind: 'chorus',
    bars: 8,
    harmony: { cadence: 'authentic', first: 'F', adventure: 25 },
    picks: { harmony: 0, melody: 0, guitar: 0, keys: 1, strings: 0, bass: 1, drums: 0 },
  },
  {
    id: 'bridge',
    kind: 'bridge',
    bars: 8,
    harmony: { cadence: 'half', adventure: 40, pace: 1 },
    picks: { harmony: 0, melody: 0, keys: 2, strings: 1, bass: 2 },
  },
  {
    id: 'outro',
    kind: 'outro',
    bars: 4,
    harmony: { cadence: 'plagal', last: 'Dm' },
    picks: { harmony: 0, melody: 0, guitar: 0, strings: 0, bass: 0 },
  },
];
const ORDER = ['intro', 'verse', 'chorus', 'verse', 'chorus', 'bridge', 'chorus', 'outro'];

const ground: Song['score']['ground'] = {
  tonic: 2,
  scale: 'dorian',
  tempo: 96,
  metre: METRES[2] as (typeof METRES)[number],
  swing: 0,
  style: STYLE.id,
};

function band(): Part[] {
  const named = STYLE.band.map((part, index) => partFrom(part, part.name.toLowerCase(), index));
  const strings = {
    ...newPart(STYLE, 'pad', 'strings', 5),
    name: 'Strings',
    instrument: 'string-ensemble',
    level: 52,
    pan: 18,
  };
  const [melody, guitar, keys, bass, drums] = named as [Part, Part, Part, Part, Part];
  return [melody, keys, guitar, strings, bass, drums];
}

const parts = band();
const sections = PLANS.map((plan): Section => {
  const section = newSection(STYLE, plan.kind, plan.id);
  return { ...section, bars: plan.bars, harmonyBrief: { ...section.harmonyBrief, ...plan.harmony } };
});
let score: Score = {
  title: 'Barometer Falling',
  ground,
  parts,
  sections,
  order: ORDER.map((section, index) => ({ id: `occurrence-${index + 1}`, section })),
  motifs: [],
  energy: [],
  remarks: {},
  styles: [],
};
const takes: Record<string, Take> = {};
const heard: Heard[] = [];

/** One line of one section: drafts its takes, logs them as heard and chooses one. */
function addLine(id: string, line: string, pick: number): void {
  const section = score.sections.find((own) => own.id === id) as Section;
  const request = requestFor({ score, takes, heard: NOTHING_HEARD }, section, line, SEED);
  if (!request) throw new Error(`${id} has no ${line}`);
  const made: Take[] = [];
  for (const step of draftTakes(request, 0, TAKES, new Set())) {
    if (step.kind === 'refused') throw new Error(step.reason);
    if (step.kind !== 'take') continue;
    const { attempts, content } = step.take;
    const place = { id: `${id}-${line}-${attempts.plan}`, section: id, length: sectionTicks(score, section) };
    const drafted = content.of === 'part' ? { ...content, part: line } : content;
    made.push(draftedTake(place, { asking: request.asking, seed: request.seed, attempts }, drafted));
  }
  for (const take of made) {
    takes[take.id] = take;
    const band = { ...bandOf(section, NOTHING_HEARD), [line]: take.id };
    heard.push(logLine(heard, takes, { take: take.id, section: id, at: 0 }, band));
  }
  const chosen = made[Math.min(pick, made.length - 1)] as Take;
  score = withHook(choose(score, id, line, chosen.id), takes, chosen.id, 'hook');
}

for (const { section, line } of songLines(score, new Set(PLANS.map(({ id }) => id)))) {
  const pick = PLANS.find(({ id }) => id === section)?.picks[line];
  if (pick !== undefined) addLine(section, line, pick);
}
/** A rival that goes on by itself, kept and named: loops of three, five and seven that move with the chords and lean. */
function addLoops(id: string, line: string): void {
  const section = score.sections.find((own) => own.id === id) as Section;
  const part = score.parts.find((own) => own.id === line) as Part;
  const brighter = LEANINGS.find(({ name }) => name === 'brighter') as Leaning;
  const lean: Lean = { goes: 'slowly', ...brighter, bars: 8, then: 'comes back' };
  const pattern = { ...firstLoops(part, SEED), leans: [lean] };
  const over = overOf({ score, takes, heard: NOTHING_HEARD }, section, 0);
  const place = { id: `${id}-${line}-loops`, section: id, length: over.length };
  const wish = { harmony: chosenId(section, HARMONY), ground: score.ground, before: null };
  const take = patternTake(place, part, pattern, patternNotes(pattern, over), wish);
  takes[take.id] = take;
  score = nameTake(remark(score, take.id, { verdict: 'kept' }), take.id, 'Three, five and seven');
}
addLoops('bridge', 'guitar');

const verse = score.sections[1] as Section;
score = remark(score, chosenId(verse, 'melody') ?? '', { verdict: 'kept' });

const song: Song = {
  format: 'fendro-song',
  version: SONG_VERSION,
  id: 'demo',
  seed: SEED,
  score,
  ledger: { takes, heard },
  hearing: {},
};
const opened = openSong(JSON.parse(JSON.stringify(song)));
if (!opened.ok || opened.setAside.length > 0) throw new Error(opened.ok ? 'damaged takes' : opened.reason);
const folder = resolve(import.meta.dirname, '../app/public/demo');
mkdirSync(folder, { recursive: true });
writeFileSync(resolve(folder, 'barometer-falling.json'), JSON.stringify(song));
console.log(`${Object.keys(takes).length} takes, ${Math.round(JSON.stringify(song).length / 1024)} kB`);
