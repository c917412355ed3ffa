/** The sheets that lie over a page for a moment. The shell shows them; commands only ask for them. */
export abstract class Dialogs {
  abstract openKeys(): Promise<void>;
  abstract openSearch(): Promise<void>;
  /** Has them at hand before they are asked for. */
  abstract warmUp(): void;
}
