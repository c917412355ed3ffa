import { ChangeDetectionStrategy, Component, computed, inject, resource } from '@angular/core';
import { MatTooltip } from '@angular/material/tooltip';
import { chordSymbol, sameChord, type Chord } from '@fendro/core/theory/chord';
import { PlayDesk } from '../../desks/playing/play-desk';
import { labelsOf, LEFT_KEYS, plainLabel, RIGHT_KEYS } from '../../desks/playing/play-keys';
import { ChordSymbol } from '../../ui/chord-symbol';
import { OFFER_WORDS, sayTouch } from './play-words';
import { Pressing } from '../../ui/pressing';
import { TouchPicture } from './touch-picture';

/** What lies under both hands, as two short lines of a score with the letters under them. */
@Component({
  selector: 'fd-play-lines',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChordSymbol, MatTooltip, Pressing, TouchPicture],
  templateUrl: './play-lines.html',
  styleUrl: './play-lines.scss',
})
export class PlayLines {
  protected readonly desk = inject(PlayDesk);
  protected readonly leftKeys = LEFT_KEYS;
  protected readonly rightKeys = RIGHT_KEYS;
  protected readonly offers = OFFER_WORDS;
  protected readonly say = sayTouch;
  protected readonly symbol = chordSymbol;
  private readonly labels = resource({ loader: () => labelsOf([...LEFT_KEYS, ...RIGHT_KEYS]) });
  /** False where the section's chords choose. */
  protected readonly chooses = computed(() => this.desk.way() !== 'strum only');
  protected readonly leftWords = computed(() => {
    if (!this.chooses()) return 'the section’s chords choose';
    return this.desk.way() === 'one hand' ? 'chords that sound at once' : 'chords that the right hand touches';
  });

  protected label(code: string | undefined): string {
    return code === undefined ? '' : (this.labels.value()?.get(code) ?? plainLabel(code));
  }

  protected isHeld(...keys: readonly (string | undefined)[]): boolean {
    return this.desk.hands().holding.some(([key]) => keys.includes(key));
  }

  protected isChosen(chord: Chord): boolean {
    const { chosen } = this.desk.hands();
    return chosen !== null && sameChord(chosen, chord);
  }
}
