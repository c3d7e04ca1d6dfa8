import type { ErrorCode } from '@clear-mark/contract';
import { readTyped } from '@clear-mark/core';
import { fieldProblem } from '@clear-mark/words';
import type { FormInstance, FormRules } from 'element-plus';
import { computed, type ComputedRef, reactive, type Ref, ref, shallowRef } from 'vue';
import { z } from 'zod';
import { Refusal, wordsOf } from '../api/client.ts';

/** Rules of a form out of the schema that the server reads it by: one schema decides in the field and on the wire. */
export function rulesOf(schema: z.ZodObject): FormRules {
  return Object.fromEntries(
    Object.entries(schema.shape).map(([name, field]) => [
      name,
      [
        {
          trigger: 'blur',
          validator: (_rule: unknown, value: unknown, done: (problem?: Error) => void): void => {
            const read = (field as z.ZodType).safeParse(value);
            done(read.success ? undefined : new Error(fieldProblem(read.error.issues[0]!, value)));
          },
        },
      ],
    ]),
  );
}

/** A number as it is typed, with point or comma; what stands in the field stays as it was typed. */
export const typedNumber = (of: z.ZodType<number>) =>
  z.preprocess((given: string | number) => {
    if (typeof given === 'number') return given;
    const typed = readTyped(given, {});
    return typed.kind === 'number' ? typed.value : given;
  }, of);

export interface CheckedForm<S extends z.ZodObject> {
  readonly values: z.input<S>;
  readonly rules: FormRules;
  /** Of the `el-form` that shows it. */
  readonly form: Ref<FormInstance | null>;
  /** What the server refused about one field, under the field's name. */
  readonly refused: Readonly<Record<string, string>>;
  /** What went wrong with the whole. */
  readonly failure: ComputedRef<string | null>;
  readonly busy: Ref<boolean>;
  /** Checks every field, then does the work with what was read; whether it was done. What was typed stays. */
  readonly send: (work: (body: z.output<S>) => Promise<unknown>) => Promise<boolean>;
  /** Sets what is given and takes every problem away. */
  readonly reset: (to: Partial<z.input<S>>) => void;
}

/**
 * A form by the schema of what it sends. `fieldOf` says which field a refusal of the server is about: it is told there, every
 * other one of the whole form.
 */
export function useForm<S extends z.ZodObject>(
  schema: S,
  start: z.input<S>,
  fieldOf: Partial<Record<ErrorCode, keyof z.input<S> & string>> = {},
): CheckedForm<S> {
  const values = reactive({ ...(start as object) }) as z.input<S>;
  const form = shallowRef<FormInstance | null>(null);
  const refused = reactive<Record<string, string>>({});
  const whole = ref<string | null>(null);
  const busy = ref(false);
  const forget = (): void => {
    whole.value = null;
    for (const name of Object.keys(refused)) delete refused[name];
  };

  async function send(work: (body: z.output<S>) => Promise<unknown>): Promise<boolean> {
    // A second tap while the first is on its way.
    if (busy.value) return false;
    forget();
    busy.value = true;
    try {
      const good = await form.value?.validate().catch(() => false);
      if (good === false) return false;
      await work(schema.parse(values));
      return true;
    } catch (error) {
      const name = error instanceof Refusal ? fieldOf[error.code] : undefined;
      if (name === undefined) whole.value = wordsOf(error);
      else refused[name] = wordsOf(error);
      return false;
    } finally {
      busy.value = false;
    }
  }
  function reset(to: Partial<z.input<S>>): void {
    Object.assign(values as object, to);
    forget();
    form.value?.clearValidate();
  }
  return {
    values,
    rules: rulesOf(schema),
    form,
    refused,
    failure: computed(() => whole.value),
    busy,
    send,
    reset,
  };
}
