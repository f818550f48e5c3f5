import { JSDOM } from 'jsdom';

// A browser's document for pages drawn without one. Requests stay Node's own, so that they reach a real server.

const { window } = new JSDOM('<!doctype html><body></body>', { url: 'http://127.0.0.1/', pretendToBeVisual: true });
// no style sheet is loaded: what an element says itself is its style, without the many rules of a browser's own sheet
const notShown = window.document.createElement('div');
notShown.style.display = 'none';
window.getComputedStyle = (element) => ((element as HTMLElement).hidden ? notShown : (element as HTMLElement)).style;
const NAMES = [
  'document',
  'navigator',
  'localStorage',
  'sessionStorage',
  'history',
  'location',
  'Node',
  'Element',
  'Text',
  'DocumentFragment',
  'HTMLElement',
  'HTMLInputElement',
  'HTMLTextAreaElement',
  'HTMLSelectElement',
  'HTMLButtonElement',
  'HTMLIFrameElement',
  'SVGElement',
  'ShadowRoot',
  'Event',
  'CustomEvent',
  'KeyboardEvent',
  'MouseEvent',
  'FocusEvent',
  'MutationObserver',
  'NodeFilter',
  'Range',
  'getComputedStyle',
  'requestAnimationFrame',
  'cancelAnimationFrame',
] as const;
for (const name of NAMES) Object.defineProperty(globalThis, name, { value: window[name], configurable: true, writable: true });
Object.defineProperty(globalThis, 'window', { value: window, configurable: true, writable: true });
// what a document without a screen has not
class NoObserver {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
}
Object.assign(globalThis, { ResizeObserver: NoObserver, IntersectionObserver: NoObserver });
Object.assign(window, { ResizeObserver: NoObserver, IntersectionObserver: NoObserver });
window.Element.prototype.scrollIntoView = () => undefined;
window.Element.prototype.scrollTo = () => undefined;
const noMedia = { matches: false, addEventListener: () => undefined, removeEventListener: () => undefined };
Object.assign(window, { matchMedia: () => noMedia });
Object.assign(globalThis, { CSS: { escape: (text: string) => text.replace(/[^\w-]/g, (sign) => `\\${sign}`) } });
