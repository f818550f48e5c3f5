import './support/dom.ts';

import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { afterEach, describe, expect, it } from 'vitest';

import { DateField } from '../apps/web/src/ui/date-field.tsx';

afterEach(cleanup);

/** A field whose value is saved at once, or never. */
function Saved({ first, saved, fails = false }: { readonly first: string; readonly saved: string[]; readonly fails?: boolean }) {
  const [value, setValue] = useState(first);
  return (
    <DateField
      aria-label="Due"
      value={value}
      set={(day) => {
        saved.push(day);
        if (!fails) setValue(day);
      }}
    />
  );
}
function open(first: string, fails = false) {
  const saved: string[] = [];
  render(<Saved first={first} saved={saved} fails={fails} />);
  const field = screen.getByLabelText<HTMLInputElement>('Due');
  return { field, saved, type: (text: string) => fireEvent.change(field, { target: { value: text } }) };
}

describe('a day', () => {
  it('that is typed counts once, on leaving the field, however many dates it was on the way', () => {
    const { field, saved, type } = open('2026-10-31');
    for (const text of ['2026-01-31', '2026-11-30', '0002-11-30', '0020-11-30', '0202-11-30', '2027-11-30']) {
      fireEvent.keyDown(field, { key: '1' });
      type(text);
      expect(field.value).toBe(text);
    }
    expect(saved).toEqual([]);
    fireEvent.blur(field);
    expect([field.value, saved]).toEqual(['2027-11-30', ['2027-11-30']]);
  });
  it('that is picked counts at once, also after one was typed', () => {
    const { field, saved, type } = open('');
    fireEvent.keyDown(field, { key: '1' });
    fireEvent.pointerDown(field);
    type('2026-11-27');
    expect(saved).toEqual(['2026-11-27']);
  });
  it.each(['blur', 'Enter'])('with a year of two figures is of this century at %s', (end) => {
    const { field, saved, type } = open('2026-10-31');
    fireEvent.keyDown(field, { key: '7' });
    type('0027-01-15');
    expect(saved).toEqual([]);
    if (end === 'blur') fireEvent.blur(field);
    else fireEvent.keyDown(field, { key: 'Enter' });
    expect([field.value, saved]).toEqual(['2027-01-15', ['2027-01-15']]);
  });
  it.each(['0202-11-27', '12026-11-27'])('of another year such as %s goes back to what it was', (text) => {
    const { field, saved, type } = open('2026-10-31');
    fireEvent.keyDown(field, { key: '2' });
    type(text);
    fireEvent.blur(field);
    expect([field.value, saved]).toEqual(['2026-10-31', []]);
  });
  it('is taken out by emptying the field, and not on the way to another', () => {
    const { field, saved, type } = open('2026-10-31');
    type('');
    expect(saved).toEqual([]);
    type('2026-11-30');
    type('');
    fireEvent.blur(field);
    expect([field.value, saved]).toEqual(['', ['2026-11-30', '']]);
  });
  it('that came back to what it was is shown so, and can be typed again', () => {
    const saved: string[] = [];
    const field = () => screen.getByLabelText<HTMLInputElement>('Due');
    const drawn = render(<DateField aria-label="Due" value="2026-10-31" set={(day) => saved.push(day)} />);
    const typeAndLeave = () => {
      fireEvent.keyDown(field(), { key: '0' });
      fireEvent.change(field(), { target: { value: '2026-11-30' } });
      fireEvent.blur(field());
    };
    typeAndLeave();
    for (const value of ['2026-11-30', '2026-10-31'])
      drawn.rerender(<DateField aria-label="Due" value={value} set={(day) => saved.push(day)} />);
    expect(field().value).toBe('2026-10-31');
    typeAndLeave();
    expect(saved).toEqual(['2026-11-30', '2026-11-30']);
  });
  it('that was looked at and left is not saved again', () => {
    const { field, saved } = open('2026-10-31');
    fireEvent.focus(field);
    fireEvent.blur(field);
    expect(saved).toEqual([]);
  });
  it('that could not be saved stays in the field, is not sent again on leaving it, and is at Enter', () => {
    const { field, saved, type } = open('2026-10-31', true);
    type('2026-11-30');
    fireEvent.blur(field);
    expect([field.value, saved]).toEqual(['2026-11-30', ['2026-11-30']]);
    fireEvent.keyDown(field, { key: 'Enter' });
    expect([field.value, saved]).toEqual(['2026-11-30', ['2026-11-30', '2026-11-30']]);
  });
});
