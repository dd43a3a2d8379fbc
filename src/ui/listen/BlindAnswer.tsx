'use client';
/** What X is: two answers, and what the score means so far. */
import { type BlindTest, type Choice, verdict } from '@/core/playback/index.ts';
import { Button } from '../parts/Button.tsx';
import { Notice } from '../parts/Notice.tsx';

interface BlindAnswerProps {
  readonly test: BlindTest;
  /** Names of the two that X may be. */
  readonly names: readonly [string, string];
  readonly isOn: boolean;
  readonly onSay: (said: Choice) => void;
}

export function BlindAnswer({ test, names: [first, second], isOn, onSay }: BlindAnswerProps) {
  return (
    <Notice>
      <span>
        X is {first} or {second}; listen to all three as often as you like, then say which.
      </span>
      <Button isDisabled={!isOn} onPress={() => onSay('A')}>
        X is {first}
      </Button>
      <Button isDisabled={!isOn} onPress={() => onSay('B')}>
        X is {second}
      </Button>
      <span>
        <strong>
          {test.right} of {test.trials} right.
        </strong>{' '}
        {verdict(test)}
      </span>
    </Notice>
  );
}
