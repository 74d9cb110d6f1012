<script setup lang="ts">
import { computed, ref } from 'vue'
import FormDialog from '@/frame/FormDialog.vue'
import { time, utc } from '@/wording/format'
import { now } from '@/wording/clock'
import { browserZone, chooseZone, chosenZone, isZone } from '@/wording/zone'

/** In which zone this person sees times on this machine. */
const emit = defineEmits<{ close: [] }>()
const OWN = `this browser's (${browserZone})`
const zones = [OWN, 'UTC', ...Intl.supportedValuesOf('timeZone').filter((z) => z !== 'UTC')]
const choice = ref(chosenZone.value || OWN)
const name = computed(() => (choice.value === OWN ? '' : choice.value))

function keep() {
  chooseZone(name.value)
  emit('close')
}
</script>

<template>
  <FormDialog
    title="Zone of times"
    action="Keep it"
    :ready="!name || isZone(name)"
    hint="Choose one of the zones."
    :busy="false"
    @close="emit('close')"
    @submit="keep"
  >
    <v-combobox v-model="choice" :items="zones" label="Times in the zone" autofocus />
    <p class="small quiet">
      Now it is {{ time(now()) }}, which is {{ utc(now()) }}. UTC shows where the pointer rests on a
      time. What is computed, drilled and handed out says UTC: sentences, reports, packs.
    </p>
  </FormDialog>
</template>
