import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import { SlideField } from '../../ui/fields/slide-field';
import { ChoiceField, type Choice, choicesOf } from '../../ui/fields/choice-field';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { voicedChords, wishFor } from '@fendro/core/voicing/chord-line';
import { shapeOfPitches } from '@fendro/core/voicing/guitar';
import { averageMotion, rootPositions } from '@fendro/core/voicing/voicing';
import { BASS_NOTES, SPREADS, VOICING_FAMILIES, type ChordSetting, type ChordSpan } from '@fendro/core/song/schema';
import { chordSymbol } from '@fendro/core/theory/chord';
import { clamp } from '@fendro/core/theory/units';
import { withoutHand } from '@fendro/core/song/chord-hand';
import { HarmonyDesk } from '../../desks/harmony-desk';
import { selectScore } from '../../store/selectors';
import { ScoreActions } from '../../store/song.actions';
import { FretboardPicture } from '../../ui/fretboard-picture';
import { KeyboardPicture } from '../../ui/keyboard-picture';
import { nameIn } from '../../ui/spoken';
import { isAccompaniment } from '@fendro/core/song/roles';

const FAMILY_WORDS = { keyboard: 'keyboard', guitar: 'guitar', ensemble: 'four voices' } as const;

const INVERSIONS = [
  'root lowest',
  'third lowest',
  'fifth lowest',
  'seventh lowest',
  'ninth lowest',
  'eleventh lowest',
  'thirteenth lowest',
];
const AS_THE_SECTION = { value: null, text: 'as the section' };
type Voicing = NonNullable<ChordSpan['voicing']>;

/** How the section's chords are laid out, and what is set by hand for the chord in focus. */
@Component({
  selector: 'fd-voicing-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [KeyboardPicture, FretboardPicture, MatButton, ChoiceField, SlideField, MatCheckbox],
  templateUrl: './voicing-panel.html',
  styleUrl: './panels.scss',
})
export class VoicingPanel {
  private readonly store = inject(Store);
  protected readonly desk = inject(HarmonyDesk);
  private readonly score = this.store.selectSignal(selectScore);
  protected readonly families = VOICING_FAMILIES.map((family) => ({ value: family, text: FAMILY_WORDS[family] }));
  protected readonly spreads = choicesOf(SPREADS);
  protected readonly basses = choicesOf(BASS_NOTES);
  protected readonly ownSpreads: readonly Choice<NonNullable<Voicing['spread']> | null>[] = [
    AS_THE_SECTION,
    ...this.spreads,
  ];
  protected readonly ownBasses: readonly Choice<NonNullable<Voicing['bass']> | null>[] = [
    AS_THE_SECTION,
    ...this.basses,
  ];

  private readonly voiced = computed(() => voicedChords(this.desk.chords(), this.desk.setting()));

  /** Motion of each voice from chord to chord, led smoothly and in root position. */
  protected readonly motion = computed(() => {
    const sounding = this.desk.chords().flatMap((span) => (span.chord ? [{ ...span, chord: span.chord }] : []));
    if (sounding.length < 2) return null;
    const setting = this.desk.setting();
    const smooth = averageMotion(
      voicedChords(this.desk.chords(), setting.smooth ? setting : { ...setting, smooth: true }).map(
        ({ pitches }) => pitches,
      ),
    );
    const plain = averageMotion(rootPositions(sounding, wishFor(setting)));
    const saved = plain === 0 ? 0 : Math.max(0, Math.round(100 * (1 - smooth / plain)));
    return (
      `Led smoothly, a voice moves ${smooth.toFixed(1)} semitones from chord to chord; in root position ` +
      `${plain.toFixed(1)}. ${saved} % saved.`
    );
  });

  protected readonly here = computed(() => {
    const focused = this.desk.focused();
    const voiced = focused ? this.voiced().find(({ start }) => start === focused.start) : undefined;
    if (!focused?.chord || !voiced) return null;
    const key = this.desk.key();
    const shape = this.desk.setting().family === 'guitar' ? shapeOfPitches(focused.chord, voiced.pitches) : null;
    return {
      span: focused,
      symbol: chordSymbol(focused.chord),
      pitches: voiced.pitches,
      shape: shape?.frets ?? null,
      inversions: [
        { value: null, text: 'as it leads' },
        ...focused.chord.tones.map((_, index) => ({ value: index, text: INVERSIONS[index] ?? '' })),
      ] as readonly Choice<number | null>[],
      voices: voiced.pitches
        .map((pitch, voice) => ({
          voice,
          pitch,
          name: nameIn(key, pitch),
          velocity: focused.velocities?.[voice] ?? focused.velocity ?? this.desk.setting().loudness,
        }))
        .reverse(),
      velocity: focused.velocity ?? this.desk.setting().loudness,
    };
  });

  protected readonly parts = computed(() => (this.score()?.parts ?? []).filter(({ role }) => isAccompaniment(role)));

  protected set(change: Partial<ChordSetting>, gesture?: string): void {
    const section = this.desk.section();
    if (section)
      this.store.dispatch(
        ScoreActions.chordSettingChanged({
          section: section.id,
          change,
          ...(gesture ? { gesture: `${gesture} ${section.id}` } : {}),
        }),
      );
  }

  private change(name: string, change: (span: ChordSpan) => ChordSpan, gesture?: string): void {
    const here = this.here();
    if (here)
      this.desk.edit(
        name,
        this.desk.chords().map((span) => (span.start === here.span.start ? change(span) : span)),
        gesture,
      );
  }

  /** @param value  null lets the section, or the leading of voices, decide again */
  protected setVoicing<F extends 'inversion' | 'spread' | 'bass'>(field: F, value: Voicing[F] | null): void {
    this.change('set a voicing', (span) => {
      const { [field]: _old, ...rest } = withoutHand(span.voicing ?? {});
      return { ...span, voicing: value === null ? rest : { ...rest, [field]: value } };
    });
  }

  /** Moves one voice by hand; from then on this chord's voices stand as they are. */
  protected nudge(voice: number, by: number): void {
    const here = this.here();
    if (!here) return;
    const pitches = here.pitches.map((pitch, index) => (index === voice ? clamp(pitch + by, 21, 108) : pitch));
    if (new Set(pitches).size < pitches.length) return;
    this.change(
      'nudge a voice',
      (span) => ({ ...span, voicing: { ...withoutHand(span.voicing ?? {}), pitches } }),
      `nudge ${here.span.start}`,
    );
  }

  protected free(): void {
    this.change('free the voices', ({ voicing: _voicing, ...span }) => span);
  }

  protected setVelocity(value: number): void {
    this.change(
      'set a chord’s loudness',
      (span) => ({ ...span, velocity: value }),
      `velocity ${this.here()?.span.start}`,
    );
  }

  protected setNoteVelocity(voice: number, value: number): void {
    const here = this.here();
    if (!here) return;
    const velocities = here.voices.map(({ velocity }) => velocity).reverse();
    velocities[voice] = value;
    this.change('set a note’s loudness', (span) => ({ ...span, velocities }), `velocity ${here.span.start} ${voice}`);
  }
}
