<script setup lang="ts">
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import ViewSwitch from '../../shared/ViewSwitch.vue';
import AccountsPanel from './AccountsPanel.vue';
import ReceiversPanel from './ReceiversPanel.vue';
import RightsPanel from './RightsPanel.vue';
import TrailPanel from './TrailPanel.vue';

/** People of the school, who may do what, and what was done. For the lead. */
const VIEWS = [
  { id: 'accounts', label: 'Accounts' },
  { id: 'rights', label: 'Who may do what' },
  { id: 'trail', label: 'What was done' },
  { id: 'programs', label: 'Other programs' },
] as const;
const PANELS = { accounts: AccountsPanel, rights: RightsPanel, trail: TrailPanel, programs: ReceiversPanel };
const route = useRoute();
const current = computed(() => VIEWS.find((v) => v.id === route.query['view']) ?? VIEWS[0]);
</script>

<template>
  <div class="page">
    <h1 class="sr">Accounts</h1>
    <ViewSwitch place="Accounts" :views="VIEWS" :current="current.id">
      <component :is="PANELS[current.id]" />
    </ViewSwitch>
  </div>
</template>
