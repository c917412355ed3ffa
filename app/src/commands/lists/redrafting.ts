import { inject } from '@angular/core';
import type { Aspect } from '@fendro/core/song/schema';
import { HoldDesk } from '../../desks/hold-desk';
import { BLENDS, Redrafting, SHARES, type Blend } from '../../desks/redrafting';
import { SheetDesk } from '../../desks/sheet-desk';
import { grouped, type Command } from '../command';

const HOLDS: readonly (readonly [aspect: Aspect, words: string, keys: readonly string[]])[] = [
  ['rhythm', 'Hold the rhythm of these bars, or free it', ['Shift+h']],
  ['pitch', 'Hold the pitches of these bars, or free them', []],
  ['dynamics', 'Hold the dynamics of these bars, or free them', []],
];

const AGAIN: readonly (readonly [aspect: Aspect, words: string, keys: readonly string[]])[] = [
  ['pitch', 'Draft new pitches for these bars in the same rhythm', ['Shift+r']],
  ['dynamics', 'Draft new dynamics for these bars', ['l']],
  ['rhythm', 'Draft a new rhythm for these bars', []],
];

const BLEND_WORDS: Readonly<Record<Blend, readonly [words: string, keys: readonly string[]]>> = {
  rhythm: ['Blend: the rhythm of the heard take, the pitches of the other', ['x']],
  pitches: ['Blend: the pitches of the heard take, the rhythm of the other', ['Shift+x']],
  bars: ['Blend: bars of the heard take and of the other in turn', []],
  halfway: ['Blend: halfway between the heard take and the other', []],
};

/** Holding what is good, drafting the rest again, near relatives and blends. */
export function redraftingCommands(): readonly Command[] {
  const [holds, redrafting, sheet] = [inject(HoldDesk), inject(Redrafting), inject(SheetDesk)];
  return grouped('Hold and redraft', 'workspace', [
    {
      id: 'bars.hold',
      words: 'Hold these bars or notes against drafting, or free them',
      now: () => `${holds.isHeld() ? 'Free' : 'Hold'} ${holds.words().toLowerCase()}: no draft changes what is held`,
      keys: ['h'],
      enabled: holds.canHold,
      pressed: () => holds.isHeld(),
      run: () => {
        holds.toggle();
      },
    },
    ...HOLDS.map(([aspect, words, keys]) => ({
      id: `bars.hold-${aspect}`,
      words,
      keys,
      enabled: holds.canHold,
      pressed: () => holds.isHeld([aspect]),
      run: () => {
        holds.toggle([aspect]);
      },
    })),
    {
      id: 'bars.free-all',
      words: 'Free all that is held of this line',
      keys: [],
      enabled: () => holds.holds().length > 0,
      run: () => {
        holds.freeAll();
      },
    },
    {
      id: 'bars.redraft',
      words: 'Draft these bars again, but for what is held',
      keys: ['r'],
      enabled: redrafting.ready,
      run: () => redrafting.redraft(),
    },
    ...AGAIN.map(([aspect, words, keys]) => ({
      id: `bars.redraft-${aspect}`,
      words,
      keys,
      enabled: redrafting.ready,
      run: () => redrafting.redraft([aspect]),
    })),
    {
      id: 'bars.echoes',
      words: 'Draft the echoes of the selected bars along with them',
      keys: ['w'],
      enabled: () => sheet.selected() !== null,
      pressed: redrafting.withEchoes,
      run: () => {
        redrafting.withEchoes.update((on) => !on);
      },
    },
    {
      id: 'bars.redraft-parts',
      words: 'Draft these bars again in every part, or in those that are heard alone',
      keys: ['Shift+b'],
      run: () => redrafting.redraftParts(),
    },
    {
      id: 'section.draft-missing',
      words: 'Draft the bars that are missing since the section became longer',
      keys: [],
      enabled: () => redrafting.missing().size > 0,
      run: () => redrafting.draftMissing(),
    },
    {
      id: 'band.reshuffle',
      words: 'Reshuffle the band, but for what is held',
      keys: ['b'],
      run: () => redrafting.reshuffle(),
    },
    {
      id: 'take.vary',
      words: 'Vary the heard take',
      now: () => `Vary the heard take: about ${redrafting.share()} % drawn anew`,
      keys: ['v'],
      enabled: redrafting.ready,
      run: () => redrafting.vary(),
    },
    {
      id: 'take.vary-share',
      words: 'Change how much is drawn anew when a take is varied',
      now: () => `Vary by ${redrafting.share()} %; the next press takes another share`,
      keys: ['Shift+v'],
      run: () => {
        redrafting.share.update(
          (share) => SHARES[(SHARES.findIndex((own) => own === share) + 1) % SHARES.length] ?? 25,
        );
      },
    },
    ...BLENDS.map((by) => ({
      id: `take.blend-${by}`,
      words: BLEND_WORDS[by][0],
      keys: BLEND_WORDS[by][1],
      enabled: redrafting.canBlend,
      run: () => redrafting.blend(by),
    })),
  ]);
}
