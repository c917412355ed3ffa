import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { chordSymbol, NO_CHORD, type Chord } from '@fendro/core/theory/chord';

/** A chord symbol as printed in a score: the root large, the quality a little raised. */
@Component({
  selector: 'fd-chord-symbol',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<span class="root">{{ parts().root }}</span
    ><span class="quality">{{ parts().quality }}</span>
    @if (parts().bass) {
      <span class="bass">/{{ parts().bass }}</span>
    }`,
  styles: `
    :host {
      font-family: var(--serif);
      font-size: 1.25rem;
      line-height: 1;
      white-space: nowrap;
      font-weight: 600;
    }
    .quality {
      font-size: 0.78em;
      font-weight: 500;
      vertical-align: 0.18em;
      margin-inline-start: 0.04em;
    }
    .bass {
      font-size: 0.86em;
    }
  `,
})
export class ChordSymbol {
  readonly chord = input.required<Chord | null>();
  protected readonly parts = computed(() => {
    const chord = this.chord();
    const text = chord ? chordSymbol(chord) : NO_CHORD;
    const match = /^([A-G][♭♯𝄪𝄫]*)(.*?)(?:\/([A-G][♭♯𝄪𝄫]*))?$/u.exec(text);
    return chord && match
      ? { root: match[1] ?? '', quality: match[2] ?? '', bass: match[3] ?? '' }
      : { root: text, quality: '', bass: '' };
  });
}
