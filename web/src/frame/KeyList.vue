<script setup lang="ts">
const shown = defineModel<boolean>({ required: true })

const keys = [
  ['j, k, ↓, ↑', 'next and previous row'],
  ['Enter', 'open it beside the list'],
  ['Esc', 'close it, or leave the field'],
  ['/', 'find in the list'],
  ['Ctrl+K', 'find anything, go anywhere, do anything'],
  ['[, ]', 'previous and next workload that is not proven (on the Board)'],
  ['d', 'drill this (on the Board)'],
  ['x, Space', 'mark a finding'],
  ['c', 'put what is marked or open under a policy'],
  ['e', 'propose an exception for it'],
  ['?', 'this list'],
]
</script>

<template>
  <v-dialog v-model="shown" max-width="420">
    <v-card title="Keys">
      <v-card-text>
        <table class="plain">
          <tbody>
            <tr v-for="[key, what] in keys" :key="key">
              <td class="mono nowrap">{{ key }}</td>
              <td>{{ what }}</td>
            </tr>
          </tbody>
        </table>
      </v-card-text>
      <v-card-actions><v-btn @click="shown = false">Close</v-btn></v-card-actions>
    </v-card>
  </v-dialog>
</template>
