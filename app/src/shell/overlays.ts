import { OverlayContainer } from '@angular/cdk/overlay';
import { Injectable } from '@angular/core';

/** Menus and hints lie over the page in a region of their own, so that a screen reader finds them among the others. */
@Injectable()
export class Overlays extends OverlayContainer {
  protected override _createContainer(): void {
    super._createContainer();
    this._containerElement?.setAttribute('role', 'region');
    this._containerElement?.setAttribute('aria-label', 'Menus and hints');
  }
}
