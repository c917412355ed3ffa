import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import type { HandedFile, HandedGroup, HandedWhat } from '@fendro/core/files/outgoing/hand-over';
import { takesOf } from '@fendro/core/song/resolve';
import { LoopedStretch } from '../../desks/looped-stretch';
import { selectPart, selectTakes, selectView } from '../../store/selectors';
import type { Choice } from '../../ui/fields/choice-field';

/** What of a song is asked for: all its files, those of one group, what is looped, or takes. */
export type Asked = HandedWhat['kind'] | Exclude<HandedGroup, 'whole' | 'takes'>;

/** What a zip of one group of a song's files is called after the song. */
const CALLED: Partial<Readonly<Record<Asked, string>>> = { parts: 'Parts', sections: 'Sections', chords: 'Chords' };

/** The same whichever of the song's own files are asked for, so that they are written once. */
const THE_SONG: HandedWhat = { kind: 'song' };

/** Which MIDI files of a song are asked for. */
@Injectable()
export class AskedFiles {
  private readonly store = inject(Store);
  private readonly looped = inject(LoopedStretch);
  private readonly takes = this.store.selectSignal(selectTakes);
  private readonly view = this.store.selectSignal(selectView);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly chosen = signal<Asked>('song');

  /** What the song offers to hand over, each with its name. */
  readonly choices = computed((): readonly Choice<Asked>[] => {
    const [stretch, part, section] = [this.looped.stretch(), this.part(), this.view()?.section];
    const takes = section && part ? takesOf(this.takes(), section.id, part.id).length : 0;
    return [
      { value: 'song', text: 'The song, each part and each section' },
      { value: 'parts', text: 'Each part' },
      { value: 'sections', text: 'Each section' },
      { value: 'chords', text: 'The chord line' },
      ...(stretch ? [{ value: 'stretch', text: `What is looped: ${stretch.name}` } as const] : []),
      ...(takes > 0 ? [{ value: 'takes', text: `Every take: ${part?.name} in ${section?.name}` } as const] : []),
    ];
  });

  /** What is chosen, as long as the song offers it. */
  readonly asked = computed((): Asked =>
    this.choices().some(({ value }) => value === this.chosen()) ? this.chosen() : 'song',
  );

  /** What is written for it: files of one group are among those of the song. */
  readonly what = computed((): HandedWhat => {
    const [asked, stretch, part, section] = [this.asked(), this.looped.stretch(), this.part(), this.view()?.section];
    if (asked === 'stretch' && stretch) return { kind: asked, ...stretch };
    return asked === 'takes' && section && part ? { kind: asked, section: section.id, part: part.id } : THE_SONG;
  });

  /** What is asked for is called so after the song; nothing where it is all of it. */
  readonly pieces = computed((): readonly string[] => {
    const what = this.what();
    if (what.kind === 'stretch') return [what.name];
    if (what.kind === 'takes') return [this.part()?.name ?? '', this.view()?.section.name ?? '', 'Takes'];
    return [CALLED[this.asked()] ?? []].flat();
  });

  /** True where files of the song itself are asked for, all or some of them. */
  readonly ofSong = computed(() => this.what().kind === 'song');

  choose(asked: Asked): void {
    this.chosen.set(asked);
  }

  /** Of the files that were written, those that are asked for. */
  among(files: readonly HandedFile[]): readonly HandedFile[] {
    const asked = this.asked();
    return CALLED[asked] === undefined ? files : files.filter(({ group }) => group === asked);
  }
}
