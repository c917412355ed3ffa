import { ListKeyManager } from '@angular/cdk/a11y';
import {
  afterRenderEffect,
  booleanAttribute,
  computed,
  contentChildren,
  Directive,
  ElementRef,
  forwardRef,
  inject,
  Injector,
  input,
  linkedSignal,
  output,
} from '@angular/core';

let lists = 0;

/** One option of a list that is heard. */
@Directive({
  selector: '[fdHeardOption]',
  host: {
    role: 'option',
    '[id]': 'domId()',
    '[class.current]': 'current()',
    '[attr.aria-selected]': 'current()',
    '(click)': 'list.choose(fdHeardOption())',
    '(dblclick)': 'list.taken.emit(fdHeardOption())',
  },
})
export class HeardOption {
  protected readonly list = inject<HeardList>(forwardRef(() => HeardList));
  readonly element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  /** What the option stands for. */
  readonly fdHeardOption = input.required<string>();
  readonly domId = computed(() => `option-${this.list.serial}-${this.fdHeardOption()}`);
  protected readonly current = computed(() => this.list.current() === this.fdHeardOption());
  /** For the key manager: every option can be reached. */
  readonly disabled = false;
}

/**
 * A list whose options are heard while the keys go over them: arrows hear, Enter takes, Y keeps, Escape leaves. The
 * focus stays on the list.
 */
@Directive({
  selector: '[fdHeardList]',
  host: {
    role: 'listbox',
    tabindex: '0',
    '[attr.aria-activedescendant]': 'currentDomId()',
    '(keydown)': 'key($event)',
  },
})
export class HeardList {
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  /** The same thing may stand in two lists of a page. */
  readonly serial = lists++;
  /** What is heard now, or null. */
  readonly at = input<string | null>(null);
  /** How many options stand beside each other. */
  readonly columns = input(1);
  /** True where the keys are commands of the workspace, which move `at`. */
  readonly byCommands = input(false, { transform: booleanAttribute });
  readonly heard = output<string>();
  readonly taken = output<string>();
  readonly kept = output<string>();
  readonly left = output();
  private readonly options = contentChildren(HeardOption, { descendants: true });
  private readonly over = new ListKeyManager(this.options, inject(Injector)).withHomeAndEnd();
  /** Where the keys stand, at once: several may be pressed before `at` comes back from whoever hears. */
  readonly current = linkedSignal(() => this.at());
  /** The option that was brought into sight last. */
  private inSight: string | null = null;
  private readonly place = computed(() =>
    this.options().findIndex((option) => option.fdHeardOption() === this.current()),
  );
  protected readonly currentDomId = computed(() => this.options()[this.place()]?.domId() ?? null);

  constructor() {
    this.over.change.subscribe((place) => {
      const option = this.options()[place];
      if (option) this.hear(option.fdHeardOption());
    });
    // Once for each: whoever scrolls on from there is not pulled back when rows come and go.
    afterRenderEffect(() => {
      const [current, option] = [this.current(), this.options()[this.place()]?.element];
      if (!option || current === this.inSight) return;
      this.inSight = current;
      this.bringIntoSight(option);
    });
  }

  /** Scrolls the list alone: on a small screen the page must stay where the writer reads. */
  private bringIntoSight(option: HTMLElement): void {
    const [list, box] = [this.element.getBoundingClientRect(), option.getBoundingClientRect()];
    if (box.top < list.top) this.element.scrollTop -= list.top - box.top;
    else if (box.bottom > list.bottom) this.element.scrollTop += box.bottom - list.bottom;
  }

  /** Hears an option that was pointed at; the keys go on from there. */
  choose(option: string): void {
    this.element.focus({ preventScroll: true });
    this.hear(option);
  }

  private hear(option: string): void {
    this.current.set(option);
    this.heard.emit(option);
  }

  protected key(event: KeyboardEvent): void {
    if (this.byCommands() || event.ctrlKey || event.metaKey || event.altKey) return;
    const at = this.current();
    if (event.key === 'Enter' && at !== null) this.taken.emit(at);
    else if (event.key === 'y' && at !== null) this.kept.emit(at);
    else if (event.key === 'Escape') {
      this.current.set(null);
      this.left.emit();
    } else if (!this.moves(event)) return;
    event.preventDefault();
    event.stopPropagation();
  }

  /** True where a key went over the options. */
  private moves(event: KeyboardEvent): boolean {
    const columns = this.columns();
    const ways: Readonly<Record<string, number>> =
      columns > 1
        ? { ArrowRight: 1, ArrowLeft: -1, ArrowDown: columns, ArrowUp: -columns }
        : { ArrowDown: 1, ArrowUp: -1 };
    const by = ways[event.key];
    const [place, last] = [this.place(), this.options().length - 1];
    this.over.updateActiveItem(place);
    if (by !== undefined) this.over.setActiveItem(place < 0 ? 0 : Math.max(0, Math.min(last, place + by)));
    else if (event.key === 'Home' || event.key === 'End') this.over.onKeydown(event);
    else return false;
    return true;
  }
}
