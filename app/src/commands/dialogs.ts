/** The sheets that lie over a page for a moment. The shell shows them; commands only ask for them. */
export abstract class Dialogs {
  /** True from when one is asked for until it lies over the page: keys pressed meanwhile are meant for it. */
  isOpening = false;
  abstract openKeys(): Promise<void>;
  abstract openSearch(): Promise<void>;
  abstract openCarry(): Promise<void>;
  /** Has them at hand before they are asked for. */
  abstract warmUp(): void;
}
