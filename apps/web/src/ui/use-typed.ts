import { useState } from 'react';

/**
 * What is typed in a field until it is taken. When the value becomes another, by a save or the way back, the field shows
 * that value.
 * @returns the text in the field, and what changes it
 */
export function useTyped(value: string): readonly [string, (text: string) => void] {
  const [typed, setTyped] = useState({ text: value, of: value });
  // forgotten as soon as the value is another, so that it does not come back with an earlier value
  if (typed.of !== value) setTyped({ text: value, of: value });
  return [typed.of === value ? typed.text : value, (text) => setTyped({ text, of: value })];
}
