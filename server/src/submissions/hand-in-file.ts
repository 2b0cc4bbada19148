import { tmpdir } from 'node:os';
import { fileSizeOf, largestFile } from '@modest-sieve/core/assessment';
import { Injectable, type CallHandler, type ExecutionContext, type NestInterceptor } from '@nestjs/common';
import { isUUID } from 'class-validator';
import multer from 'multer';
import type { Observable } from 'rxjs';
import { PackRecord } from '../exercises/exercise.entity.js';
import type { RequestWithCaller } from '../platform/access/access.js';
import { Problem } from '../platform/errors/problem.js';

/** What a form may take beside its file, in bytes. */
const BESIDE_FILE = 64 * 1024;

/** Takes the file of a form, named `file`, to a temporary file that is no larger than an answer to the exercise can be. */
@Injectable()
export class HandInFile implements NestInterceptor {
  async intercept(context: ExecutionContext, next: CallHandler): Promise<Observable<unknown>> {
    const http = context.switchToHttp();
    const request = http.getRequest<RequestWithCaller>();
    const largest = await largestOf(request);
    // A body that says how large it is need not be looked at to be refused. What still comes is let go, so that the
    // browser, which sends first and reads then, gets the answer.
    if (Number(request.headers['content-length'] ?? 0) > largest + BESIDE_FILE) {
      request.resume();
      throw tooLarge(largest);
    }
    const take = multer({
      storage: multer.diskStorage({ destination: tmpdir() }),
      limits: { fileSize: largest, files: 1, fields: 10, fieldSize: BESIDE_FILE },
    }).single('file');
    await new Promise<void>((resolve, reject) => {
      take(request, http.getResponse(), (error: unknown) => {
        if (error === undefined || error === null) {
          resolve();
          return;
        }
        request.resume();
        reject(error instanceof multer.MulterError ? refusalOf(error, largest) : (error as Error));
      });
    });
    return next.handle();
  }
}

/** The largest file that an answer to any question of the exercise can be; that of nothing where there is none. */
async function largestOf({ caller, params }: RequestWithCaller): Promise<number> {
  const id = params.exercise;
  const pack =
    typeof id === 'string' && isUUID(id) ? await caller?.db.findOneBy(PackRecord, { exerciseId: id }) : null;
  return Math.max(
    largestFile({}),
    ...(pack?.questions ?? []).map(({ rules }) => largestFile(fileSizeOf(rules))),
  );
}

function refusalOf({ code, message }: multer.MulterError, largest: number): Problem {
  if (code === 'LIMIT_FILE_SIZE') return tooLarge(largest);
  return new Problem(400, 'invalid', `The form cannot be read: ${message}.`);
}

const tooLarge = (largest: number) =>
  new Problem(
    413,
    'size',
    `The file is larger than any answer to this exercise: at most ${(largest / 1024 / 1024).toFixed(1)} MB are taken.`,
  );
