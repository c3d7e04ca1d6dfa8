<script setup lang="ts">
import { type FeatureRule, readTyped, type SizeBand } from '@clear-mark/core';
import { typedProblem } from '@clear-mark/words';
import { computed } from 'vue';
import CommitField from '../../../shared/CommitField.vue';
import { type RuleKind, withOneMore } from '../../../shared/zone-rules.ts';

/** What a zone allows of one kind of mark, to be edited: sizes in micrometres, how many of each. */
const props = defineProps<{ zone: string; kind: RuleKind; rule: FeatureRule }>();
const emit = defineEmits<{ change: [rule: FeatureRule]; wrong: [words: string | null] }>();
const bands = computed<readonly SizeBand[]>(() => (props.rule === 'no_limit' ? [] : props.rule));

const setBand = (at: number, more: Partial<SizeBand>): void =>
  emit(
    'change',
    bands.value.map((b, i) => (i === at ? { ...b, ...more } : b)),
  );
const drop = (at: number): void =>
  emit(
    'change',
    bands.value.filter((_, i) => i !== at),
  );
/** A size that was cleared is no size of 0: it stays as it was, and says so. */
function setSize(text: string, at: number, key: 'fromUm' | 'toUm'): void {
  const typed = readTyped(text, { least: 0, most: 1000 });
  emit('wrong', typedProblem(typed, 'a size', 'µm'));
  if (typed.kind === 'number') setBand(at, { [key]: typed.value });
}
function setCount(text: string, at: number): void {
  const typed = readTyped(text.trim() === 'any' ? '' : text, { least: 0, whole: true });
  const empty = typed.kind === 'empty';
  emit('wrong', empty ? null : typedProblem(typed, 'a number of marks; empty is any'));
  if (empty) setBand(at, { count: null });
  else if (typed.kind === 'number') setBand(at, { count: typed.value });
}
</script>

<template>
  <el-checkbox
    size="large"
    label="no limit"
    :model-value="rule === 'no_limit'"
    @change="(on: unknown) => emit('change', on ? 'no_limit' : [])"
  />
  <template v-if="rule !== 'no_limit'">
    <div v-for="(b, n) in bands" :key="n" class="row band">
      <CommitField
        class="short"
        inputmode="decimal"
        :label="`Zone ${zone}, ${kind}, how many`"
        :value="b.count === null ? 'any' : String(b.count)"
        @commit="setCount($event, n)"
      />
      from
      <CommitField
        class="short"
        inputmode="decimal"
        :label="`Zone ${zone}, ${kind}, from`"
        :value="String(b.fromUm)"
        @commit="setSize($event, n, 'fromUm')"
      />
      to
      <CommitField
        class="short"
        inputmode="decimal"
        :label="`Zone ${zone}, ${kind}, to`"
        :value="String(b.toUm)"
        @commit="setSize($event, n, 'toUm')"
      />
      µm
      <el-button size="large" text :aria-label="`Remove the size, zone ${zone}`" @click="drop(n)">
        Remove
      </el-button>
    </div>
    <el-button size="large" text @click="emit('change', withOneMore(bands))">Add a size</el-button>
  </template>
</template>

<style scoped>
.short {
  width: 76px;
}
.band {
  flex-wrap: nowrap;
  margin-bottom: 4px;
}
</style>
