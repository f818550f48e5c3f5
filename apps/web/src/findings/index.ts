export { Bridge } from './bridge.tsx';
export { LiveText } from './live-text.tsx';
