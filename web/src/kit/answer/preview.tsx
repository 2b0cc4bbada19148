import { Flex, Text } from '@chakra-ui/react';
import { useEffect, useRef, useState } from 'react';
import useSWR, { type SWRResponse } from 'swr';
import type { Address, AnswerOf, BodyOf, PathOf } from '../../api/address.js';
import { ask, OVERTAKEN, type ApiProblem } from '../../api/client.js';
import { TextAction } from '../form/action.js';

export interface Preview<T> extends SWRResponse<T, ApiProblem> {
  /** Gives up waiting for the answer that is under way. */
  readonly stop: () => void;
}

/**
 * What would follow from something that is tried out: asked again whenever it changes, while the last answer stays in
 * place. A question that a newer one overtakes is given up.
 *
 * @param body null asks for nothing
 */
export function usePreview<P extends PathOf<'post'>>(
  url: Address<P>,
  body: BodyOf<P, 'post'> | null,
  about: unknown = null,
): Preview<AnswerOf<P, 'post'>> {
  const running = useRef<AbortController | null>(null);
  const answer = useSWR<AnswerOf<P, 'post'>, ApiProblem>(
    body === null ? null : [url, JSON.stringify([body, about])],
    () => {
      running.current?.abort(OVERTAKEN);
      const mine = new AbortController();
      running.current = mine;
      // Asked for only where there is a body.
      return ask(url, body as BodyOf<P, 'post'>, mine.signal);
    },
    { keepPreviousData: true, revalidateOnFocus: false, shouldRetryOnError: false },
  );
  useEffect(() => () => running.current?.abort(OVERTAKEN), []);
  const error = answer.error?.code === OVERTAKEN ? undefined : answer.error;
  return { ...answer, error, stop: () => running.current?.abort() };
}

/** Seconds after which waiting is shown. */
const PATIENCE = 1;

/** That an answer is under way, since when, and how to give it up; nothing for one that comes at once. */
export function Waiting({ of, what }: { of: Pick<Preview<unknown>, 'isValidating' | 'stop'>; what: string }) {
  const { isValidating } = of;
  const [seconds, setSeconds] = useState(0);
  const [seen, setSeen] = useState(isValidating);
  if (seen !== isValidating) {
    setSeen(isValidating);
    setSeconds(0);
  }
  useEffect(() => {
    if (!isValidating) return;
    const timer = setInterval(() => setSeconds((before) => before + 1), 1000);
    return () => clearInterval(timer);
  }, [isValidating]);
  if (!isValidating || seconds < PATIENCE) return null;
  return (
    <Flex gap={3} fontSize="14px" color="quiet" role="status" mt={2}>
      <Text>
        {what}: {seconds} s so far.
      </Text>
      <TextAction onClick={of.stop}>Stop</TextAction>
    </Flex>
  );
}
