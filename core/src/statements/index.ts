/**
 * What core has to say to a person: a code with its values in SI, worded by the views in the reader's language and units.
 * A value that is text is itself a code or a name of the log.
 */
export interface Statement<Code extends string = string> {
  code: Code;
  values: Readonly<Record<string, number | string>>;
}

export const statement = <Code extends string>(code: Code, values: Statement['values'] = {}): Statement<Code> => ({ code, values });
