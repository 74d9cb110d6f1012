<script setup lang="ts">
import Moment from '@/frame/Moment.vue'
import type { FactRef } from '@/api/types'
import { useServerData } from '@/api/useServerData'
import { relative } from '@/wording/format'

/** One fact as it is known, with where it came from. */
const props = defineProps<{ fact: FactRef }>()
defineEmits<{ close: [] }>()

const { data, problem } = useServerData('/api/facts/{file}', () => ({
  params: { path: { file: props.fact.kind }, query: { key: [props.fact.key] } },
}))
</script>

<template>
  <v-dialog :model-value="true" max-width="560" @update:model-value="$emit('close')">
    <v-card>
      <v-card-title class="mono">{{ fact.key }}</v-card-title>
      <v-card-text>
        <p v-if="problem" role="alert">{{ problem }}</p>
        <template v-if="data">
          <p class="small quiet">
            from feed {{ data.feed }}, known since <Moment :at="data.recordedAt" /> ({{
              relative(data.recordedAt)
            }})
          </p>
          <table class="plain">
            <tbody>
              <tr v-for="(value, field) in data.values" :key="field">
                <td class="quiet nowrap">{{ field }}</td>
                <td class="mono value">{{ value }}</td>
              </tr>
            </tbody>
          </table>
        </template>
      </v-card-text>
      <v-card-actions><v-btn autofocus @click="$emit('close')">Close</v-btn></v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.value {
  overflow-wrap: anywhere;
  font-size: 12.5px;
}
</style>
