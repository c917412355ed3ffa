import { inject, Injectable } from '@angular/core';
import { CURVE_KINDS } from '@fendro/core/song/curve';
import { expressed, EXPRESSIONS, plain, type Expression } from '@fendro/core/shaping/curves';
import { News } from '../store/news';
import { CloseUpDesk } from './close-up-desk';
import { CloseUpView } from './close-up-view';

/** What players do to the picked notes of the close-up. */
@Injectable({ providedIn: 'root' })
export class ExpressionDesk {
  private readonly desk = inject(CloseUpDesk);
  private readonly view = inject(CloseUpView);
  private readonly news = inject(News);

  give(expression: Expression): void {
    const ids = this.desk.ids();
    this.view.showStrip(EXPRESSIONS[expression].kind);
    this.desk.commit({ name: `let notes ${expression}` }, (notes) => expressed(notes, ids, expression));
    this.news.say(`${ids.size === 1 ? 'The note' : `${ids.size} notes`}: ${expression}`);
  }

  /** Takes all curves off. */
  plain(): void {
    const ids = this.desk.ids();
    this.desk.commit({ name: 'take expression off notes' }, (notes) =>
      CURVE_KINDS.reduce((all, kind) => plain(all, ids, kind), notes),
    );
    this.news.say('Plain again');
  }
}
