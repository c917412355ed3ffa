import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { Sharing } from '../../desks/shelf/sharing';
import { ShelfDesk } from '../../desks/shelf/shelf-desk';
import { detailOf, found, foldersOf, nameOfKind, SEEN, thingsOf, type SeenKind } from '../../desks/shelf/things';
import { GuestBand } from '../../desks/guest-band';
import { Shelf } from '../../store/shelf';
import { ChoiceField, type Choice } from '../../ui/fields/choice-field';
import { SearchField } from '../../ui/fields/search-field';
import { IdeaList, type Idea } from '../../ui/idea-list';
import { ShelfBank } from './shelf-bank';
import { ShelfPut } from './shelf-put';
import { ShelfThing } from './shelf-thing';

/** As many as are listed at once; more are found by words. */
const LISTED = 150;

/** Everything that is reusable across songs: found by words, heard where it would come to be, taken with one key. */
@Component({
  selector: 'fd-shelf-drawer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    ChoiceField,
    IdeaList,
    MatButton,
    MatCheckbox,
    MatMenu,
    MatMenuItem,
    MatMenuTrigger,
    SearchField,
    ShelfBank,
    ShelfPut,
    ShelfThing,
  ],
  templateUrl: './shelf-drawer.html',
  styleUrl: '../drawer.scss',
  styles: `
    fd-search-field {
      width: 11rem;
    }
    fd-choice-field {
      width: 8.5rem;
    }
    .told {
      margin: 0;
      font-size: 0.8125rem;
    }
  `,
})
export class ShelfDrawer {
  private readonly shelf = inject(Shelf);
  private readonly sharing = inject(Sharing);
  private readonly guests = inject(GuestBand);
  protected readonly desk = inject(ShelfDesk);
  protected readonly query = signal('');
  protected readonly kind = signal<SeenKind | ''>('');
  protected readonly folder = signal('');
  protected readonly keptOnly = signal(false);
  protected readonly filling = signal(false);
  /** What came of files that were opened. */
  protected readonly told = signal<readonly string[]>([]);

  private readonly things = computed(() => thingsOf(this.shelf.contents()));
  protected readonly kinds = computed((): readonly Choice<SeenKind | ''>[] => {
    const count = (kind: SeenKind): number => this.things().filter((own) => own.kind === kind).length;
    return [
      { value: '', text: 'any kind' },
      ...SEEN.map((value) => ({ value, text: `${nameOfKind(value)} (${count(value)})` })),
    ];
  });
  protected readonly folders = computed((): readonly Choice<string>[] => [
    { value: '', text: 'any folder' },
    ...foldersOf(this.things()).map((name) => ({ value: name, text: name })),
  ]);
  protected readonly found = computed(() =>
    found(this.things(), {
      query: this.query(),
      kind: this.kind() || null,
      folder: this.folder() || null,
      keptOnly: this.keptOnly(),
    }),
  );
  protected readonly ideas = computed((): readonly Idea[] =>
    this.found()
      .slice(0, LISTED)
      .map((thing) => ({
        id: thing.key,
        text: thing.name,
        detail: detailOf(thing),
        ...(thing.kept ? { marked: 'kept' } : {}),
      })),
  );
  protected readonly status = computed(() => {
    if (this.guests.working()) return 'drafting its band …';
    const count = this.found().length;
    return count > LISTED ? `${count} found, the first ${LISTED} are listed` : `${count} found`;
  });
  protected readonly nothing = computed(() =>
    this.things().length === 0
      ? 'Nothing lies here yet. Put chords, briefs, phrases or a whole band here, and they are there in every song.'
      : 'Nothing by these words. Try a name, a tag, a role or a folder.',
  );
  protected readonly thing = computed(() => this.things().find(({ key }) => key === this.desk.current()) ?? null);

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      this.desk.letGo();
    });
  }

  protected hear(key: string): void {
    const thing = this.things().find((own) => own.key === key);
    if (thing) this.desk.hear(thing);
  }

  protected async take(): Promise<void> {
    await this.desk.take();
  }

  protected keep(key: string): void {
    const thing = this.things().find((own) => own.key === key);
    if (thing) this.shelf.toggleFavourite(thing.id);
  }

  protected saveFound(): void {
    const kind = this.kind();
    const names = [this.query().trim(), this.folder(), kind === '' ? '' : nameOfKind(kind)];
    this.sharing.save(this.found(), names.find((name) => name !== '') ?? 'Shelf');
  }

  protected async open(field: HTMLInputElement): Promise<void> {
    const files = [...(field.files ?? [])];
    // The same file may be opened again.
    field.value = '';
    if (files.length > 0) this.told.set(await this.sharing.open(files));
  }
}
