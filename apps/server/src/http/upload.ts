import { mkdirSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';

import { MOST_IN_NAME, withoutControls } from '@wise-margin/core';
import type { RequestHandler } from 'express';
import multer, { MulterError } from 'multer';

import { ProblemError, refused } from './problem.ts';

/** A form with files: their fields, one file each, the data folder they are written below, and their size. */
export type Form = { readonly files: readonly string[]; readonly directory: string; readonly mostBytes: number };
/** A file as it arrived: where it lies until the request is answered, and the name it had. */
export type Upload = { readonly path: string; readonly name: string };
export type Uploads = Readonly<Record<string, Upload | undefined>>;

const MOST_FIELDS = 10;
const sizeWords = (bytes: number): string =>
  bytes >= 1024 ** 3
    ? `${bytes / 1024 ** 3} GB`
    : bytes >= 1024 ** 2
      ? `${Math.floor(bytes / 1024 ** 2)} MB`
      : `${Math.floor(bytes / 1000)} KB`;

/** Takes the files of a form to disk. Anything wrong with the form is the sender's, with the limit that holds. */
export function uploadOf({ files, directory, mostBytes }: Form): RequestHandler {
  const limits = { fileSize: mostBytes, files: files.length, fields: MOST_FIELDS, fieldSize: 10_000, fieldNameSize: 100 };
  const dest = join(directory, 'uploads');
  mkdirSync(dest, { recursive: true });
  const take = multer({ dest, limits }).fields(files.map((name) => ({ name, maxCount: 1 })));
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

/** The files of a request taken by `uploadOf`, by field; their names shortened, without what cannot be shown. */
export function uploadsOf(files: unknown): Uploads {
  const byField = Object.entries((files ?? {}) as Readonly<Record<string, readonly Express.Multer.File[]>>);
  return Object.fromEntries(
    byField.flatMap(([field, [file]]) => (file ? [[field, { path: file.path, name: shownName(file.originalname) }]] : [])),
  );
}

/** Removes what is still there of the files; a file taken over by the handler is gone from here already. */
export async function removeUploads(uploads: Uploads): Promise<void> {
  await Promise.all(Object.values(uploads).flatMap((upload) => (upload ? [rm(upload.path, { force: true })] : [])));
}

/** The file of a field. @throws ProblemError 422 with the message when none was sent */
export function requiredUpload(uploads: Uploads, field: string, message: string): Upload {
  const upload = uploads[field];
  if (!upload) throw refused(message, field);
  return upload;
}

const shownName = (name: string): string => withoutControls(Buffer.from(name, 'latin1').toString('utf8')).slice(0, MOST_IN_NAME);
