import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { guitarShapes } from '@fendro/core/voicing/guitar';
import { voicedChords } from '@fendro/core/voicing/chord-line';
import { chordFacts } from '@fendro/core/study/chord-facts';
import { chordSymbol } from '@fendro/core/theory/chord';
import { pitchClassOf, printedName } from '@fendro/core/theory/pitch';
import { HarmonyDesk } from '../../desks/harmony-desk';
import { FretboardPicture } from '../../ui/fretboard-picture';
import { KeyboardPicture } from '../../ui/keyboard-picture';

const ROLE_WORDS = {
  tonic: 'at rest (tonic)',
  subdominant: 'opens out (subdominant)',
  dominant: 'wants home (dominant)',
  borrowed: 'borrowed from the parallel mode',
  applied: 'dominant of another degree (applied)',
} as const;
const SCALES_SHOWN = 5;

/** Everything that can be said of the chord in focus, on a keyboard and on a fretboard. */
@Component({
  selector: 'fd-facts-panel',
  // What scrolls can be reached by keys.
  host: { tabindex: '0', role: 'group', 'aria-label': 'Facts of the chord in focus' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [KeyboardPicture, FretboardPicture],
  template: `
    @if (facts(); as facts) {
      <h3>{{ facts.symbol }}</h3>
      <fd-keyboard-picture [pitches]="facts.pitches" />
      <p class="spoken-only">On the keyboard: {{ facts.noteText }}</p>
      @if (facts.shape; as shape) {
        <fd-fretboard-picture [shape]="shape" />
        <p class="spoken-only">On the fretboard, lowest string first: {{ facts.shapeText }}</p>
      }
      <dl>
        <dt>Notes</dt>
        <dd>{{ facts.noteText }}</dd>
        <dt>Degree</dt>
        <dd>{{ facts.numeral }}</dd>
        <dt>Does</dt>
        <dd>{{ facts.role }}</dd>
        <dt>Scales</dt>
        <dd>{{ facts.scales }}</dd>
        <dt>Tension</dt>
        <dd>{{ facts.tension }} % against the key</dd>
      </dl>
    } @else {
      <p class="quiet">Put the caret on a chord to see what it is made of.</p>
    }
  `,
  styleUrl: './panels.scss',
})
export class FactsPanel {
  private readonly desk = inject(HarmonyDesk);

  protected readonly facts = computed(() => {
    const span = this.desk.focused();
    if (!span?.chord) return null;
    const { chord } = span;
    const facts = chordFacts(chord, this.desk.key());
    const voiced = voicedChords(this.desk.chords(), this.desk.setting()).find(({ start }) => start === span.start);
    const shape =
      guitarShapes(chord, pitchClassOf(chord.bass ?? chord.root))[0]?.frets ??
      guitarShapes(chord, null)[0]?.frets ??
      null;
    const degree = (text: string): string => text.replaceAll('b', '♭').replaceAll('#', '♯').replace('♭ass', 'bass');
    return {
      symbol: chordSymbol(chord),
      numeral: facts.numeral,
      role: ROLE_WORDS[facts.role],
      tension: facts.tension,
      shape,
      pitches: voiced?.pitches ?? [],
      noteText: facts.notes.map(({ name, degree: own }) => `${name} (${degree(own)})`).join(', '),
      shapeText: (shape ?? [])
        .map((fret) => (fret === null ? 'not struck' : fret === 0 ? 'open' : `fret ${fret}`))
        .join(', '),
      scales:
        facts.scales
          .slice(0, SCALES_SHOWN)
          .map(({ name }) => `${printedName(chord.root)} ${name.toLowerCase()}`)
          .join(', ') || 'none that holds all its notes',
    };
  });
}
