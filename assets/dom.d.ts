// What a page's own script may take for granted: an element asked for by its selector is of the kind
// that the template wrote, and an event comes from one.
interface ParentNode {
  querySelector(selectors: string): any;
  querySelectorAll(selectors: string): NodeListOf<any>;
}
interface Document { getElementById(id: string): any; }
interface EventTarget {
  closest(selectors: string): any;
  matches(selectors: string): boolean;
  querySelector(selectors: string): any;
  remove(): void;
  submit(): void;
  setAttribute(name: string, value: string): void;
  readonly dataset: DOMStringMap;
  readonly elements: any;
  readonly files: FileList;
  readonly form: any;
  readonly id: string;
  readonly method: string;
  readonly type: string;
  value: any;
}
