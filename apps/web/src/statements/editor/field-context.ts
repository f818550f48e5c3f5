import { createContext } from 'react';

/** The id a field's control takes, so that its label and hint belong to it. */
export const FieldContext = createContext<{ readonly id: string; readonly hint: string | undefined } | null>(null);
