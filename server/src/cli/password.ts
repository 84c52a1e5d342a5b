import { createInterface } from 'node:readline';
import { randomInt } from 'node:crypto';
import { setPassword } from '../db/sign-in';
import { SetUpError } from '../cluster';
import type { Context } from './context';

const LEAST = 8;

/** Asks for a line: hidden on a terminal, else the first line that comes in. */
async function ask(question: string): Promise<string> {
  const { stdin, stdout } = process;
  if (!stdin.isTTY) {
    for await (const line of createInterface({ input: stdin })) return line;
    return '';
  }
  stdout.write(question);
  stdin.setRawMode(true);
  try {
    let typed = '';
    for await (const chunk of stdin) {
      for (const key of String(chunk)) {
        if (key === '\r' || key === '\n') return typed;
        if (key === '\u0003') throw new SetUpError('stopped; the password stays as it was');
        typed = key === '\u007f' ? typed.slice(0, -1) : typed + key;
      }
    }
    return typed;
  } finally {
    stdin.setRawMode(false);
    stdin.pause();
    stdout.write('\n');
  }
}

/** Sets the password that other devices sign in with. */
export async function passwordCommand(context: Context): Promise<void> {
  const password = await ask(`New password (at least ${LEAST} characters): `);
  if (password.length < LEAST) throw new SetUpError(`the password must have at least ${LEAST} characters; nothing was changed`);
  await setPassword(context.pool, context.account, password);
  console.log('the password is set; devices that were signed in have to sign in again');
}

const SYLLABLES = 'ba be bi bo da de di do fa fe fi fo ga go ka ke ki ko la le li lo ma me mi mo na ne ni no pa pe pi po ra re ri ro sa se si so ta te ti to va ve vi vo'.split(' '); // prettier-ignore

/** A password that can be read out on a boat: six groups of two syllables, about 64 bits. */
export const readablePassword = (): string =>
  Array.from({ length: 6 }, () => SYLLABLES[randomInt(SYLLABLES.length)] + SYLLABLES[randomInt(SYLLABLES.length)]).join('-');
