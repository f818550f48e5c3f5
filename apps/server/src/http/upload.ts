import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { RequestHandler } from 'express';
import multer, { MulterError, type Field } from 'multer';
import { MOST_IN_NAME, withoutControls } from '@wise-margin/core';
import { ProblemError } from './problem.ts';

const sizeWords = (bytes: number): string =>
  bytes >= 1024 ** 3
    ? `${bytes / 1024 ** 3} GB`
    : bytes >= 1024 ** 2
      ? `${Math.floor(bytes / 1024 ** 2)} MB`
      : `${Math.floor(bytes / 1000)} KB`;

/**
 * Takes files of a form: to disk below a data folder, or into memory for small ones. Anything wrong with the
 * form is told as the sender's fault, with the limit that holds here.
 */
export function uploadOf(
  fields: readonly Field[],
  {
    directory,
    mostBytes,
    mostFields = 10,
  }: { readonly directory: string | null; readonly mostBytes: number; readonly mostFields?: number },
): RequestHandler {
  const limits = { fileSize: mostBytes, files: fields.length, fields: mostFields, fieldSize: 10_000, fieldNameSize: 100 };
  if (directory !== null) mkdirSync(join(directory, 'uploads'), { recursive: true });
  const take = multer({ ...(directory === null ? {} : { dest: join(directory, 'uploads') }), limits }).fields(fields);
  return (request, response, next) =>
    take(request, response, (error: unknown) => {
      if (error === undefined || error === null || error instanceof ProblemError) return next(error);
      if (error instanceof MulterError && error.code === 'LIMIT_FILE_SIZE')
        return next(
          new ProblemError(413, 'File too large', `The file is larger than ${sizeWords(mostBytes)}. Split it, or save it smaller.`),
        );
      if (error instanceof MulterError) return next(new ProblemError(422, 'Upload rejected', `The form cannot be read: ${error.message}.`));
      const { code } = error as NodeJS.ErrnoException;
      // the file system's failures are ours; a form that breaks off is the sender's
      if (code !== undefined) return next(error);
      next(new ProblemError(400, 'Upload rejected', 'The upload is incomplete or is not a form. Send the file again.'));
    });
}

/** The files of a form taken by `uploadOf`, by field. */
export const uploadedFiles = (files: unknown): Readonly<Record<string, readonly Express.Multer.File[] | undefined>> =>
  (files ?? {}) as Record<string, Express.Multer.File[]>;

/** The name a file was uploaded under, shortened, without what cannot be shown. */
export const uploadedName = (name: string): string => withoutControls(Buffer.from(name, 'latin1').toString('utf8')).slice(0, MOST_IN_NAME);
