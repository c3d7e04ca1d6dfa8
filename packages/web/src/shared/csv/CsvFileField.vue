<script setup lang="ts" generic="Column extends string">
import ChoiceField from '../ChoiceField.vue';
import { NO_COLUMN, type OpenCsv } from './use-csv-file.ts';

/** Opens a CSV file and says which of its columns is which. */
const props = defineProps<{
  of: OpenCsv<Column>;
  columns: readonly { readonly value: Column; readonly label: string }[];
}>();
const { file, latin, refused, mapping, choices, open, map } = props.of;
</script>

<template>
  <el-upload :auto-upload="false" :show-file-list="false" accept=".csv,.txt,text/csv" :on-change="open">
    <template #trigger>
      <el-button size="large" tag="span">{{ file ? 'Another file' : 'Open a CSV file' }}</el-button>
    </template>
  </el-upload>
  <p v-if="refused" class="notice bad" role="alert">{{ refused }}</p>
  <template v-if="file">
    <p v-if="latin" class="notice">
      The file is not in UTF-8: its letters are read as those of western Europe. Look at the names.
    </p>
    <div class="row columns">
      <ChoiceField
        v-for="c in columns"
        :key="c.value"
        :label="c.label"
        :model-value="mapping[c.value] ?? NO_COLUMN"
        :options="choices"
        @change="map(c.value, $event)"
      />
    </div>
  </template>
</template>

<style scoped>
.columns {
  flex-wrap: wrap;
  margin: 12px 0;
}
</style>
