<script setup lang="ts">
import { computed, ref } from 'vue'
import { answerOf, api } from '@/api/client'
import type { ReportDraft, ReportKindView, ReportView } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { zone } from '@/wording/zone'
import FormDialog from '@/frame/FormDialog.vue'
import SelectorBuilder from '@/frame/SelectorBuilder.vue'
import { FORMATS, HINTS, HOWS, RHYTHMS } from './reportChoices'

/** What is handed out, of what, when, and to whom. */
const props = defineProps<{ start?: ReportView; kinds: ReportKindView[] }>()
const emit = defineEmits<{ close: []; saved: [] }>()

const says = props.start?.report
const draft = ref<ReportDraft>({
  title: '',
  kind: 'digest',
  active: true,
  rule: RHYTHMS[0]!.value,
  ...says,
  formats: [...(says?.formats ?? ['html', 'csv', 'json'])],
  selector: says?.selector ?? '',
  period: says?.period ?? '',
  zone: says?.zone ?? zone(),
  deliveries: (says?.deliveries ?? [{ how: 'mail', recipient: '' }]).map((d) => ({ ...d })),
})
const often = ref(RHYTHMS.some((r) => r.value === draft.value.rule) ? draft.value.rule : 'own')
const kind = computed(() => props.kinds.find((k) => k.kind === draft.value.kind))
const periodLabel = computed(() =>
  kind.value?.period === 'ahead'
    ? 'How far ahead, such as 14d (empty: two weeks)'
    : 'How far back, such as 7d (empty: since it was due before)',
)
const ready = computed(
  () =>
    !!draft.value.title.trim() &&
    (often.value !== 'own' || !!draft.value.rule.trim()) &&
    (draft.value.deliveries ?? []).every((d) => d.recipient.trim()),
)
const { attempt, busy, problem } = useAttempt()

const save = () =>
  attempt(async () => {
    const body: ReportDraft = {
      ...draft.value,
      rule: often.value === 'own' ? draft.value.rule : often.value,
      selector: draft.value.selector || undefined,
      period: draft.value.period || undefined,
    }
    if (props.start) {
      const params = { path: { id: props.start.id } }
      await answerOf(api.PUT('/api/reports/{id}', { params, body }))
    } else {
      await answerOf(api.POST('/api/reports', { body }))
    }
    emit('saved')
    emit('close')
  })
</script>

<template>
  <FormDialog
    :title="start ? 'Change a report' : 'Have a report issued'"
    action="Keep it"
    :ready="ready"
    hint="It needs a title, and whoever is named needs an address."
    :busy="busy"
    :problem="problem"
    @close="emit('close')"
    @submit="save"
  >
    <v-text-field v-model="draft.title" label="Title" maxlength="200" autofocus />
    <v-select
      v-model="draft.kind"
      :items="kinds"
      item-value="kind"
      item-title="words"
      label="What"
    />
    <SelectorBuilder
      v-if="draft.kind !== 'head'"
      :model-value="draft.selector ?? ''"
      @update:model-value="draft.selector = $event"
    />
    <v-text-field
      v-if="kind && kind.period !== 'none'"
      v-model="draft.period"
      :label="periodLabel"
    />
    <v-select
      v-if="kind?.tables"
      v-model="draft.formats"
      :items="FORMATS"
      label="As"
      multiple
      chips
    />
    <v-select v-model="often" :items="RHYTHMS" label="When" />
    <v-text-field
      v-if="often === 'own'"
      v-model="draft.rule"
      class="mono"
      label="Recurrence rule (RFC 5545)"
    />
    <v-text-field v-model="draft.zone" label="in the zone" />
    <fieldset>
      <legend class="small">To</legend>
      <div v-for="(d, i) in draft.deliveries" :key="i" class="to">
        <v-select v-model="d.how" :items="HOWS" :label="`How, recipient ${i + 1}`" />
        <div>
          <v-text-field v-model="d.recipient" :label="`Recipient ${i + 1}`" maxlength="300" />
          <p class="small quiet">{{ HINTS[d.how] }}</p>
        </div>
        <button
          type="button"
          class="link small"
          :aria-label="`Leave out recipient ${i + 1}`"
          @click="draft.deliveries?.splice(i, 1)"
        >
          leave out
        </button>
      </div>
      <button
        type="button"
        class="link small"
        @click="draft.deliveries?.push({ how: 'mail', recipient: '' })"
      >
        add a recipient
      </button>
      <span v-if="!draft.deliveries?.length" class="small quiet">
        Nobody: it lies in the list of what was issued.</span
      >
    </fieldset>
    <v-checkbox v-model="draft.active" label="On" hide-details />
  </FormDialog>
</template>

<style scoped>
fieldset {
  border: 1px solid var(--rule);
  padding: 8px 12px 10px;
  margin: 0;
}
.to {
  display: grid;
  grid-template-columns: minmax(150px, 0.6fr) 1fr auto;
  gap: 10px;
  align-items: start;
  margin-bottom: 8px;
}
.to .link {
  margin-top: 12px;
}
p {
  margin: 2px 0 0;
}
</style>
