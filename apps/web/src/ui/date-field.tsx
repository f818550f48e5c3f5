import { type ComponentProps, useRef } from 'react';

import { useTyped } from './use-typed.ts';

const FIRST_YEAR = 1900;
// without a limit a browser takes years of six figures
const LAST_DAY = '9999-12-31';

type Props = Omit<ComponentProps<'input'>, 'type' | 'value' | 'onChange' | 'onBlur' | 'onKeyDown'> & {
  /** ISO date; empty for none */
  readonly value: string;
  readonly set: (value: string) => void;
};

/**
 * A day, picked or typed. A picked one counts at once. One that is typed counts on leaving the field or at Enter, since
 * a browser tells of a date after every figure: of the year 2, then 20, then 202. A year of two figures is of this
 * century, one that is not whole leaves the day as it was, and an empty field is none.
 */
export function DateField({ value, set, className = 'field py-0.5', max = LAST_DAY, ...input }: Props) {
  const isTyping = useRef(false);
  // a save may take a moment, or fail: until then the field shows what was sent
  const sent = useRef<string | null>(null);
  const [text, setText] = useTyped(value);
  const send = (day: string): void => {
    sent.current = day;
    setText(day);
    set(day);
  };
  const finish = (isIncomplete: boolean, isAsked: boolean): void => {
    isTyping.current = false;
    if (text === value) return;
    const full = isIncomplete ? null : withCentury(text);
    if (full === null || full === value) setText(value);
    // what is on its way is not sent again, unless that is asked for
    else if (isAsked || full !== sent.current) send(full);
  };
  return (
    <input
      {...input}
      type="date"
      max={max}
      className={className}
      value={text}
      onChange={({ target }) => {
        if (!isTyping.current && target.value !== '' && target.value !== value) return send(target.value);
        sent.current = null;
        setText(target.value);
      }}
      onPointerDown={() => {
        isTyping.current = false;
      }}
      onBlur={({ target }) => finish(target.validity.badInput, false)}
      onKeyDown={(event) => {
        if (event.key === 'Enter') finish(event.currentTarget.validity.badInput, true);
        else if (event.key !== 'Tab') isTyping.current = true;
      }}
    />
  );
}

const yearOf = (date: string): number => Number(date.slice(0, date.indexOf('-')));

/** A date with its year in full; empty stays empty. Null for a year that is neither of two figures nor of four. */
function withCentury(date: string): string | null {
  if (date.length > LAST_DAY.length) return null;
  if (date === '' || yearOf(date) >= FIRST_YEAR) return date;
  return yearOf(date) < 100 ? `${2000 + yearOf(date)}${date.slice(date.indexOf('-'))}` : null;
}
