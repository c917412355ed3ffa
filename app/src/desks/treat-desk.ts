import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { treatPart } from '@fendro/core/song/edit';
import { groundOf, keyOf } from '@fendro/core/song/ground';
import { isDrumRole } from '@fendro/core/song/roles';
import type { Chain, Treatment, TreatmentName } from '@fendro/core/song/schema';
import { stepped, type BoundSetting } from '@fendro/core/settings/setting';
import { drumName } from '@fendro/core/sounding/drum-names';
import * as edits from '@fendro/core/treat/chain-edits';
import type { At } from '@fendro/core/treat/chain-edits';
import { FIRST } from '@fendro/core/treat/first-treatment';
import { settingsOf } from '@fendro/core/treat/treatment-settings';
import { sayTreatment } from '@fendro/core/treat/words';
import { News } from '../store/news';
import { selectOwnScore, selectPart, selectSection } from '../store/selectors';
import { ScoreActions } from '../store/song.actions';
import { nameIn } from '../ui/spoken';

/** What all takes of the part in focus go through on their way to the ear. */
@Injectable({ providedIn: 'root' })
export class TreatDesk {
  private readonly store = inject(Store);
  private readonly news = inject(News);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly part = this.store.selectSignal(selectPart);
  /** The treatment that was opened last; of another part it means nothing. */
  private readonly opened = signal<{ readonly part: string; readonly at: At } | null>(null);

  readonly chain = computed((): Chain => this.part()?.treatments ?? edits.PLAIN);
  readonly ready = computed(() => this.part() !== null);
  readonly any = computed(() => this.chain().flat().length > 0);
  /** True where nothing of it works, so that notes sound as they are written. */
  readonly off = computed(() =>
    this.chain()
      .flat()
      .every(({ off }) => off === true),
  );
  /** Where the treatment stands whose settings are shown; null where none are. */
  readonly at = computed((): At | null => {
    const opened = this.opened();
    if (!opened || opened.part !== this.part()?.id) return null;
    return edits.treatmentAt(this.chain(), opened.at) ? opened.at : null;
  });
  /** How pitches are said: as notes of the key here, or as drums. */
  readonly sayPitch = computed(() => {
    const [score, section, part] = [this.score(), this.section(), this.part()];
    if (part && isDrumRole(part.role)) return drumName;
    const key = score ? keyOf(section ? groundOf(score, section) : score.ground) : { tonic: 0, scale: 'major' };
    return (pitch: number): string => nameIn(key, pitch);
  });

  open(at: At | null): void {
    const part = this.part();
    this.opened.set(part && at ? { part: part.id, at } : null);
  }

  settingsAt(at: At): readonly BoundSetting<Treatment>[] {
    const treatment = edits.treatmentAt(this.chain(), at);
    return treatment ? settingsOf(treatment, this.sayPitch()) : [];
  }

  said(at: At): string {
    const treatment = edits.treatmentAt(this.chain(), at);
    return treatment ? sayTreatment(treatment, this.sayPitch()) : '';
  }

  /** Adds a treatment behind all others of its branch, or as a branch of its own that sounds meanwhile. */
  add(does: TreatmentName, meanwhile = false): void {
    const branch = this.chain().length - 1;
    const step = this.chain()[branch]?.length ?? 0;
    const place = meanwhile ? { branch: branch + 1, step: 0 } : { branch, step };
    this.edit('treat a part', (chain) =>
      meanwhile ? edits.withMeanwhile(chain, FIRST[does]) : edits.withTreatment(chain, place, FIRST[does]),
    );
    const said = this.said(place);
    if (said !== '') this.news.say(meanwhile ? `Meanwhile ${said}` : `Then ${said}`);
  }

  /** Puts a whole chain in place of what the part goes through. */
  take(chain: Chain): void {
    this.open(null);
    this.edit('take treatments over', () => chain);
  }

  /** Steps what a treatment is about. */
  step(at: At, by: 1 | -1): void {
    const [setting] = this.settingsAt(at);
    const next = setting && stepped(setting, by);
    if (setting && next) this.set(at, setting.id, next.value);
  }

  set(at: At, id: string, value: string | number): void {
    this.edit(
      'set a treatment',
      (chain) => {
        const setting = this.settingsAt(at).find((own) => own.id === id);
        return setting && value !== setting.value ? edits.withOther(chain, at, setting.set(value)) : chain;
      },
      `${at.branch} ${at.step} ${id}`,
    );
  }

  /** Strikes a treatment out without losing it, or lets it work again. */
  strike(at: At): void {
    this.edit('strike a treatment out', (chain) => edits.withStruck(chain, at));
    this.news.say(`${this.said(at)}: ${edits.treatmentAt(this.chain(), at)?.off ? 'struck out' : 'works again'}`);
  }

  /** Strikes all of them out, or lets all work again. */
  strikeAll(): void {
    if (!this.any()) return;
    const off = !this.off();
    this.edit(off ? 'strike treatments out' : 'let treatments work', (chain) => edits.withAllStruck(chain, off));
    this.news.say(off ? 'As written: treatments are struck out' : 'Treatments work again');
  }

  /** @returns where it stands afterwards */
  move(from: At, by: 1 | -1): At {
    const to = edits.onward(this.chain(), from, by);
    this.moveTo(from, to);
    return edits.treatmentAt(this.chain(), to) ? to : from;
  }

  /** To a place among all others that are read. */
  drag(from: number, to: number): void {
    const at = edits.placesIn(this.chain())[from];
    if (at) this.moveTo(at, edits.draggedTo(this.chain(), from, to));
  }

  private moveTo(from: At, to: At): void {
    const open = this.at();
    this.edit('move a treatment', (chain) => edits.withMoved(chain, from, to));
    if (open) this.open(open.branch === from.branch && open.step === from.step ? to : null);
  }

  remove(at: At): void {
    this.open(null);
    this.edit('take a treatment away', (chain) => edits.withoutTreatment(chain, at));
  }

  /**
   * @param change  gives the same chain where nothing is to be done
   * @param kind    edits of one kind that follow each other are one step of undo
   */
  private edit(name: string, change: (chain: Chain) => Chain, kind?: string): void {
    const [score, part] = [this.score(), this.part()];
    const chain = this.chain();
    const next = change(chain);
    if (!score || !part || next === chain) return;
    this.store.dispatch(
      ScoreActions.revised({
        name,
        score: treatPart(score, part.id, next),
        takes: [],
        released: [],
        ...(kind === undefined ? {} : { gesture: `treat ${part.id} ${kind}` }),
      }),
    );
  }
}
