import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { passNotes } from '@fendro/core/patterns/pass';
import { groundOf } from '@fendro/core/song/ground';
import { withEnding } from '@fendro/core/song/limits';
import { LONGEST_PHRASE_NAME, phraseFrom } from '@fendro/core/song/own-phrase';
import { chordsWithin } from '@fendro/core/song/progression';
import { partTake, soundingId } from '@fendro/core/song/resolve';
import { isDrumRole } from '@fendro/core/song/roles';
import type { Score } from '@fendro/core/song/schema';
import { bandSetUp, bareSong, songStart } from '@fendro/core/song/song-start';
import { chordRhythmOf, ownRhythmId, type ChordRhythm } from '@fendro/core/styles/chord-rhythms';
import { newId } from '../../store/ids';
import { Notices } from '../../store/notices';
import {
  selectBar,
  selectChords,
  selectMusic,
  selectOwnScore,
  selectPart,
  selectPass,
  selectSection,
} from '../../store/selectors';
import { sessionFeature } from '../../store/session';
import { Shelf } from '../../store/shelf';
import { HarmonyDesk } from '../harmony-desk';
import { PatternDesk } from '../pattern-desk';
import { TakeView } from '../take-view';
import { TreatDesk } from '../treat-desk';

/** Something of the song that can be put on the shelf. */
export interface Puttable {
  readonly id: string;
  /** “the chords of bars 1–4”. */
  readonly what: string;
  /** The name that is proposed. */
  readonly name: string;
  /** @returns whether it lies there now; why not has been said */
  readonly put: (name: string) => boolean;
}

/** What of the song in view can be put on the shelf, and how. */
@Injectable({ providedIn: 'root' })
export class Putting {
  private readonly store = inject(Store);
  private readonly shelf = inject(Shelf);
  private readonly notices = inject(Notices);
  private readonly harmony = inject(HarmonyDesk);
  private readonly patterns = inject(PatternDesk);
  private readonly treatments = inject(TreatDesk);
  private readonly view = inject(TakeView);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly chords = this.store.selectSignal(selectChords);
  private readonly pass = this.store.selectSignal(selectPass);
  private readonly bars = this.store.selectSignal(sessionFeature.selectBars);
  private readonly bar = this.store.selectSignal(selectBar);

  /** The take that the part in focus plays. */
  private readonly sounding = computed(() => {
    const [music, section, part] = [this.music(), this.section(), this.part()];
    return music && section && part ? partTake(music.takes, soundingId(section, part.id, music.heard)) : null;
  });
  readonly canBePhrase = computed(() => this.sounding() !== null);

  /** What can be put there now, what is nearest first. */
  readonly choices = computed((): readonly Puttable[] => {
    const score = this.score();
    return score ? [...this.ofChords(score), ...this.ofPart(score), ...this.ofSong(score)] : [];
  });

  private ofChords({ title }: Score): Puttable[] {
    const [section, bars, bar] = [this.section(), this.bars(), this.bar()];
    if (!section || this.chords().length === 0) return [];
    const { from, to } = bars ?? { from: 0, to: section.bars };
    const chords = chordsWithin(this.chords(), from * bar, to * bar);
    const rhythm = chordRhythmOf(this.harmony.setting().rhythm);
    const where = bars ? `bars ${from + 1}–${to}` : section.name;
    return [
      {
        id: 'progression',
        what: `the chords of ${where}`,
        name: `${section.name} of ${title}`,
        put: (name) =>
          this.shelf.add('progressions', {
            name,
            ...this.harmony.key(),
            length: (to - from) * bar,
            bars: to - from,
            chords,
          }),
      },
      ...(rhythm
        ? [
            {
              id: 'rhythm',
              what: 'the rhythm of the chords',
              name: rhythm.name,
              put: (own: string) => this.shelf.put('rhythms', named(rhythm, own)),
            },
          ]
        : []),
    ];
  }

  private ofPart({ title }: Score): Puttable[] {
    const [part, pattern] = [this.part(), this.patterns.pattern()];
    if (!part) return [];
    const { role, brief } = part;
    const name = `${part.name} of ${title}`;
    const plays = isDrumRole(role) ? 'the drum pattern' : 'the phrase';
    return [
      ...(this.canBePhrase()
        ? [
            {
              id: 'phrase',
              what: `${plays} that ${part.name} plays`,
              name: this.phraseName(),
              put: (own: string) => this.phrase(own),
            },
          ]
        : []),
      ...(pattern
        ? [
            {
              id: 'pattern',
              what: `the pattern of ${part.name}`,
              name,
              put: (own: string) => this.shelf.add('patterns', { name: own, role, pattern }),
            },
          ]
        : []),
      {
        id: 'brief',
        what: `the brief of ${part.name}`,
        name,
        put: (own) => this.shelf.add('briefs', { name: own, role, brief }),
      },
      ...(this.treatments.any()
        ? [
            {
              id: 'chain',
              what: `the treatments of ${part.name}`,
              name,
              put: (own: string) => this.shelf.add('chains', { name: own, chain: this.treatments.chain() }),
            },
          ]
        : []),
    ];
  }

  private ofSong(score: Score): Puttable[] {
    const kept = (name: string, own: Score) => ({ name, song: bareSong({ ...own, title: name }, newId('song')) });
    return [
      {
        id: 'band',
        what: 'the band: who plays, with which sounds and briefs',
        name: `Band of ${score.title}`,
        put: (name) => this.shelf.add('bands', kept(name, bandSetUp(score))),
      },
      {
        id: 'start',
        what: 'the song without its notes, to begin others with',
        name: score.title,
        put: (name) => this.shelf.add('starts', kept(name, songStart(score))),
      },
    ];
  }

  /** What the phrase of the take that sounds would be called. */
  phraseName(): string {
    const [section, part, take] = [this.section(), this.part(), this.sounding()];
    if (!section || !part || !take) return '';
    return withEnding(`${part.name} of ${section.name}`, `, ${this.view.nameOf(take.id)}`, LONGEST_PHRASE_NAME);
  }

  /** Puts what the part in focus plays there as a phrase. */
  phrase(name: string): boolean {
    const [music, section, part, take] = [this.music(), this.section(), this.part(), this.sounding()];
    if (!music || !section || !part || !take) return false;
    const played = { ...take, notes: passNotes(music, section, take, this.pass()) };
    const ground = groundOf(music.score, section);
    const phrase = phraseFrom(played, part.role, this.chords(), ground, { id: newId('phrase'), name });
    if (phrase) return this.shelf.put('phrases', phrase);
    this.notices.say('This take is silent: there is no phrase in it.');
    return false;
  }
}

/** The id of a rhythm under a name: its own where that is its name. */
const named = ({ id, name, metre, length, steps }: ChordRhythm, own: string): string =>
  own === name ? id : ownRhythmId(own, metre, length, steps);
