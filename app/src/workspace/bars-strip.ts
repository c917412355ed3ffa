import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { Store } from '@ngrx/store';
import { spanOf } from '@fendro/core/sounding/course';
import { RunsCommand } from '../commands/runs-command';
import { DragOut } from '../desks/drag-out';
import { HoldDesk } from '../desks/hold-desk';
import { Redrafting } from '../desks/redrafting';
import { SheetDesk } from '../desks/sheet-desk';
import { selectMusic, selectPart, selectView } from '../store/selectors';
import { listBars, sayBars } from '../ui/say-bars';
import { MotifMenu } from './motif-menu';

/** What can be done to the selected bars, beside them on the sheet. */
@Component({
  selector: 'fd-bars-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, MatIconButton, MatMenu, MatMenuItem, MatMenuTrigger, MotifMenu, RunsCommand],
  template: `
    <div class="strip" role="toolbar" [attr.aria-label]="'Bars ' + name()">
      <span
        class="quiet grip"
        draggable="true"
        [title]="'Drag out as a MIDI file: ' + (part()?.name ?? 'all parts')"
        (pointerenter)="out.comeNear()"
        (dragstart)="dragOut($event)"
        >{{ name() }}</span
      >
      <button matButton class="small" fdRuns="bars.redraft">Redraft</button>
      @if (part()) {
        <button matButton class="small" fdRuns="bars.redraft-pitch" aria-label="New pitches">Pitches</button>
        <button matButton class="small" fdRuns="bars.redraft-dynamics" aria-label="New dynamics">Dynamics</button>
      }
      @if (echoes(); as bars) {
        <button matButton class="small" fdRuns="bars.echoes">with {{ bars }}</button>
      }
      <span class="rule"></span>
      <button matButton class="small" fdRuns="bars.hold">Hold</button>
      <button matIconButton class="small" [matMenuTriggerFor]="further" aria-label="Hold or redraft in part">
        <mat-icon svgIcon="arrow_drop_down" />
      </button>
      <mat-menu #further="matMenu">
        <button mat-menu-item fdRuns="bars.hold-rhythm">{{ ofHold('rhythm') }}</button>
        <button mat-menu-item fdRuns="bars.hold-pitch">{{ ofHold('pitch') }}</button>
        @if (part()) {
          <button mat-menu-item fdRuns="bars.hold-dynamics">{{ ofHold('dynamics') }}</button>
        }
        <button mat-menu-item fdRuns="bars.redraft-rhythm">New rhythm</button>
        <button mat-menu-item fdRuns="bars.redraft-parts">Redraft in every part</button>
        <button mat-menu-item fdRuns="bars.free-all">Free all of this line</button>
      </mat-menu>
      <span class="rule"></span>
      @if (part()) {
        <button matIconButton class="small" fdRuns="part.alone" aria-label="Hear this part alone">
          <mat-icon svgIcon="headphones" />
        </button>
        <button matButton class="small" fdRuns="bars.rest">Rest</button>
        <button matButton class="small" fdRuns="bars.octave-down" aria-label="Octave down">8 ↓</button>
        <button matButton class="small" fdRuns="bars.octave-up" aria-label="Octave up">8 ↑</button>
        <button matIconButton class="small" fdRuns="bars.softer" aria-label="Softer">
          <mat-icon svgIcon="remove" />
        </button>
        <button matIconButton class="small" fdRuns="bars.louder" aria-label="Louder"><mat-icon svgIcon="add" /></button>
      }
      <button matButton class="small" fdRuns="bars.solo" aria-label="Solo here">Solo</button>
      @if (part()) {
        <fd-motif-menu #motifs />
        <button matIconButton class="small" [matMenuTriggerFor]="more" aria-label="Further for these bars">
          <mat-icon svgIcon="more_horiz" />
        </button>
        <mat-menu #more="matMenu">
          <button mat-menu-item fdRuns="bars.put">Put into the chosen take</button>
          <button mat-menu-item fdRuns="section.cut">Cut the section here</button>
          <button mat-menu-item fdRuns="place.rest">Rest in this place only</button>
          <button mat-menu-item fdRuns="take.carry">Carry elsewhere …</button>
          <button mat-menu-item [matMenuTriggerFor]="motifs.menu()">Motif</button>
        </mat-menu>
      }
      <button matIconButton class="small" fdRuns="sheet.drop" aria-label="Drop the selection">
        <mat-icon svgIcon="close" />
      </button>
    </div>
  `,
  styles: `
    :host {
      min-width: 0;
    }
    .strip {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      padding: 1px 2px 1px 10px;
      background: var(--surface);
      border: 1px solid var(--accent);
      border-radius: var(--corner);
      box-shadow: var(--shadow);
      font-size: 0.8125rem;
      white-space: nowrap;
    }
    .grip {
      cursor: grab;
      margin-inline-end: 4px;
    }
    .rule {
      width: 1px;
      height: 18px;
      margin-inline: 3px;
      background: var(--line);
    }
  `,
})
export class BarsStrip {
  private readonly desk = inject(SheetDesk);
  private readonly holds = inject(HoldDesk);
  private readonly redrafting = inject(Redrafting);
  private readonly store = inject(Store);
  protected readonly out = inject(DragOut);
  protected readonly part = this.store.selectSignal(selectPart);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly view = this.store.selectSignal(selectView);
  protected readonly name = computed(() => {
    const bars = this.desk.selected();
    if (!bars) return '';
    return bars.to - bars.from === 1 ? `${bars.from + 1}` : `${bars.from + 1}–${bars.to}`;
  });
  /** The bars that say again what the selected ones say, in words; empty where there are none. */
  protected readonly echoes = computed(() => {
    const echoes = this.redrafting.echoes();
    return echoes.length === 0 ? '' : `${echoes.length === 1 ? 'its echo,' : 'echoes,'} ${listBars(echoes)}`;
  });

  protected dragOut(event: DragEvent): void {
    const [music, view, bars] = [this.music(), this.view(), this.desk.selected()];
    const stretch =
      music && view && bars
        ? { span: spanOf(music.score, view, bars), rounds: 1, name: `${view.section.name}, ${sayBars(bars)}` }
        : null;
    this.out.startBars(event, music, stretch, this.part());
  }

  protected ofHold(aspect: 'rhythm' | 'pitch' | 'dynamics'): string {
    const chords = this.part() === null;
    const what =
      aspect === 'pitch' ? (chords ? 'the chords' : 'the pitches') : chords ? 'when they change' : `the ${aspect}`;
    return `${this.holds.isHeld([aspect]) ? 'Free' : 'Hold'} ${what}`;
  }
}
