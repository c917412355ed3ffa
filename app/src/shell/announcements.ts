import { LiveAnnouncer } from '@angular/cdk/a11y';
import { effect, inject, Injectable, Injector, untracked } from '@angular/core';
import { News } from '../store/news';
import { type Notice, Notices } from '../store/notices';

/** Shows notices on slips over the page's foot, and says them and the news to screen readers. */
@Injectable({ providedIn: 'root' })
export class Announcements {
  private readonly injector = inject(Injector);
  private readonly announcer = inject(LiveAnnouncer);
  private readonly notices = inject(Notices);
  private readonly news = inject(News);
  private said: readonly Notice[] = [];
  private slips: Promise<{ dismiss: () => void }> | null = null;

  constructor() {
    effect(() => {
      const open = this.notices.open();
      untracked(() => {
        this.tell(open);
      });
    });
    effect(() => {
      this.say(this.news.latest().text);
    });
  }

  private tell(open: readonly Notice[]): void {
    for (const notice of open) if (!this.said.includes(notice)) this.say(notice.text);
    this.said = open;
    if (open.length > 0) this.slips ??= this.show();
    else {
      void this.slips?.then((slips) => {
        slips.dismiss();
      });
      this.slips = null;
    }
  }

  private say(text: string): void {
    if (text !== '') void this.announcer.announce(text, 'polite');
  }

  /** Fetched when there is something to show. */
  private async show(): Promise<{ dismiss: () => void }> {
    const [{ MatSnackBar, MatSnackBarConfig }, { NoticeSlips }] = await Promise.all([
      import('@angular/material/snack-bar'),
      import('./notice-slips'),
    ]);
    // Said by the announcer, each as it comes; the bar itself stays silent.
    const how = Object.assign(new MatSnackBarConfig(), { politeness: 'off', horizontalPosition: 'start' });
    return this.injector.get(MatSnackBar).openFromComponent(NoticeSlips, how);
  }
}
