/**
 * Makes the demo song "Barometer Falling" with Fendro's own drafters from recorded seeds, so that the demo shows what
 * the engine does. Run: npm run demo. The result is committed; a test drafts every take again and compares.
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { harmonyAsking, partAsking } from '@fendro/core/compose/asking';
import { draftTakes, type DraftedTake } from '@fendro/core/compose/takes';
import { choose, remark } from '@fendro/core/song/edit';
import { chosenId } from '@fendro/core/song/section';
import { openSong } from '@fendro/core/song/song-file';
import {
  HARMONY,
  SONG_VERSION,
  type Asking,
  type Brief,
  type Heard,
  type HarmonyBrief,
  type HarmonyTake,
  type Part,
  type PartTake,
  type Score,
  type Section,
  type SectionKind,
  type Song,
  type Take,
} from '@fendro/core/song/schema';
import { draftedTake } from '@fendro/core/song/take';
import { newPart, newSection, partFrom } from '@fendro/core/styles/band';
import { styleOf } from '@fendro/core/styles/styles';
import { barTicks, METRES } from '@fendro/core/theory/metre';

const SEED = 20_261;
const TAKES = 6;
const STYLE = styleOf('singer-songwriter');

interface Plan {
  readonly id: string;
  readonly kind: SectionKind;
  readonly bars: number;
  readonly harmony: Partial<HarmonyBrief>;
  /** Parts that play, with what is asked of them here and which of the takes was chosen. */
  readonly parts: Readonly<Record<string, { readonly pick: number; readonly brief?: Partial<Brief> }>>;
  readonly pickHarmony: number;
}

const PLANS: readonly Plan[] = [
  {
    id: 'intro',
    kind: 'intro',
    bars: 4,
    harmony: { cadence: 'open', first: 'Dm' },
    pickHarmony: 0,
    parts: { guitar: { pick: 0 }, bass: { pick: 2, brief: { busyness: 1 } } },
  },
  {
    id: 'verse',
    kind: 'verse',
    bars: 8,
    harmony: { cadence: 'open', first: 'Dm' },
    pickHarmony: 0,
    parts: { melody: { pick: 0 }, guitar: { pick: 1 }, bass: { pick: 0 }, drums: { pick: 1, brief: { busyness: 7 } } },
  },
  {
    id: 'chorus',
    kind: 'chorus',
    bars: 8,
    harmony: { cadence: 'authentic', first: 'F', adventure: 25 },
    pickHarmony: 2,
    parts: {
      melody: { pick: 2, brief: { low: 65, high: 82, busyness: 4.5 } },
      guitar: { pick: 0 },
      keys: { pick: 1 },
      strings: { pick: 0 },
      bass: { pick: 1, brief: { busyness: 4 } },
      drums: { pick: 0, brief: { busyness: 14 } },
    },
  },
  {
    id: 'bridge',
    kind: 'bridge',
    bars: 8,
    harmony: { cadence: 'half', adventure: 40, pace: 1 },
    pickHarmony: 2,
    parts: {
      melody: { pick: 1, brief: { busyness: 3 } },
      keys: { pick: 2 },
      strings: { pick: 1 },
      bass: { pick: 2, brief: { busyness: 2 } },
    },
  },
  {
    id: 'outro',
    kind: 'outro',
    bars: 4,
    harmony: { cadence: 'plagal', last: 'Dm' },
    pickHarmony: 0,
    parts: { guitar: { pick: 0 }, strings: { pick: 0 }, bass: { pick: 0, brief: { busyness: 1 } } },
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

function draftSome(
  asking: Asking,
  seed: number,
  chords: HarmonyTake['chords'] | null,
  beside: readonly PartTake[],
): DraftedTake[] {
  const takes: DraftedTake[] = [];
  for (const step of draftTakes({ asking, seed, chords, beside }, 0, TAKES, new Set())) {
    if (step.kind === 'take') takes.push(step.take);
    if (step.kind === 'refused') throw new Error(step.reason);
  }
  return takes;
}

const parts = band();
let score: Score = {
  title: 'Barometer Falling',
  ground,
  parts,
  sections: [],
  order: ORDER.map((section, index) => ({ id: `occurrence-${index + 1}`, section })),
  energy: [],
  remarks: {},
  styles: [],
};
const takes: Record<string, Take> = {};
const heard: Heard[] = [];

/** One line of one section: drafts its takes, logs them as heard and chooses one. */
function addLine(
  plan: Plan,
  line: string,
  asking: Asking,
  seed: number,
  pick: number,
  chords: HarmonyTake['chords'] | null,
  beside: readonly PartTake[],
): Take {
  const length = plan.bars * barTicks(ground.metre);
  const made = draftSome(asking, seed, chords, beside).map(({ attempts, content }) =>
    draftedTake(
      { id: `${plan.id}-${line}-${attempts.plan}`, section: plan.id, length },
      { asking, seed, attempts },
      content.of === 'part' ? { ...content, part: line } : content,
    ),
  );
  for (const take of made) {
    takes[take.id] = take;
    heard.push({ take: take.id, at: 0 });
  }
  const chosen = made[Math.min(pick, made.length - 1)] as Take;
  score = choose(score, plan.id, line, chosen.id);
  return chosen;
}

for (const plan of PLANS) {
  const section = newSection(STYLE, plan.kind, plan.id);
  const harmonyBrief = { ...section.harmonyBrief, ...plan.harmony };
  score = { ...score, sections: [...score.sections, { ...section, bars: plan.bars, harmonyBrief }] };
  const place = { ground, bars: plan.bars, kind: plan.kind };
  const harmony = addLine(
    plan,
    HARMONY,
    harmonyAsking(place, harmonyBrief),
    SEED,
    plan.pickHarmony,
    null,
    [],
  ) as HarmonyTake;
  let drums: PartTake | null = null;
  const lines = [...parts].sort((a, b) => Number(b.role === 'drums') - Number(a.role === 'drums'));
  for (const part of lines) {
    const wish = plan.parts[part.id];
    if (!wish) continue;
    const beside: PartTake[] = part.role === 'bass' && drums ? [drums] : [];
    const asking = partAsking(
      place,
      { ...part, brief: { ...part.brief, ...wish.brief } },
      { harmony: harmony.id, beside: beside.map(({ id }) => id) },
    );
    const chosen = addLine(plan, part.id, asking, SEED + parts.indexOf(part) + 1, wish.pick, harmony.chords, beside);
    if (part.role === 'drums') drums = chosen as PartTake;
  }
}
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
