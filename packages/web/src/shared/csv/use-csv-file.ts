import type { UploadFile } from 'element-plus';
import { computed, type ComputedRef, ref, type Ref, shallowRef, type ShallowRef } from 'vue';
import { type CsvFile, type CsvShape, type Mapping, mappingOf, readCsv, textOf } from './csv-file.ts';

/** A CSV that was opened, with which column is which. */
export interface OpenCsv<Column extends string> {
  readonly file: Readonly<ShallowRef<CsvFile | null>>;
  /** Read in the letters of western Europe, since it is not in UTF-8. */
  readonly latin: Readonly<Ref<boolean>>;
  readonly refused: Readonly<Ref<string | null>>;
  readonly mapping: Readonly<ShallowRef<Mapping<Column>>>;
  readonly choices: ComputedRef<{ value: number; label: string }[]>;
  readonly open: (file: UploadFile) => Promise<void>;
  readonly map: (column: Column, index: number) => void;
}

/** The column of what the file does not have. */
export const NO_COLUMN = -1;

/** `onOpen` is told of each file that was read; it may complete the mapping. */
export function useCsvFile<Column extends string>(
  shape: CsvShape<Column>,
  onOpen: (mapping: Mapping<Column>) => Mapping<Column> = (mapping) => mapping,
): OpenCsv<Column> {
  const file = shallowRef<CsvFile | null>(null);
  const latin = ref(false);
  const refused = ref<string | null>(null);
  const mapping = shallowRef({} as Mapping<Column>);
  const choices = computed(() => [
    { value: NO_COLUMN, label: 'not there' },
    ...(file.value?.headings ?? []).map((label, value) => ({ value, label })),
  ]);
  async function open({ raw }: UploadFile): Promise<void> {
    if (!raw) return;
    const read = textOf(await raw.arrayBuffer());
    const found = readCsv(read.text, shape);
    latin.value = read.latin;
    refused.value = found.kind === 'refused' ? found.why : null;
    file.value = found.kind === 'read' ? found.file : null;
    if (file.value) mapping.value = onOpen(mappingOf(file.value, shape));
  }
  function map(column: Column, index: number): void {
    const rest = { ...mapping.value };
    delete rest[column];
    mapping.value = index === NO_COLUMN ? rest : { ...rest, [column]: index };
  }
  return { file, latin, refused, mapping, choices, open, map };
}
