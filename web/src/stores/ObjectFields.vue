<script setup lang="ts">
import type { ConnectionFields, SecretFields } from './fields'

/** Where an object store is, and the key that opens it. */
defineProps<{ kept: boolean }>()
const draft = defineModel<ConnectionFields>('draft', { required: true })
const secret = defineModel<SecretFields>('secret', { required: true })
</script>

<template>
  <div class="pair">
    <v-text-field
      v-model="draft.endpoint"
      label="Endpoint"
      placeholder="https://objects.example"
      class="mono"
    />
    <v-text-field v-model="draft.region" label="Region, where it has any" class="mono" />
  </div>
  <div class="pair">
    <v-text-field v-model="draft.bucket" label="Bucket" class="mono" />
    <v-text-field
      v-model="draft.prefix"
      label="Only below"
      placeholder="the whole bucket"
      class="mono"
    />
  </div>
  <div class="pair">
    <v-text-field v-model="draft.keyId" label="Key" class="mono" autocomplete="off" />
    <v-text-field
      v-model="secret.secret"
      type="password"
      :label="kept ? 'Secret (stays where left empty)' : 'Secret'"
      autocomplete="new-password"
    />
  </div>
  <v-text-field
    v-model="secret.token"
    type="password"
    label="Token, for a key that lasts for a while only"
    autocomplete="new-password"
  />
  <v-checkbox v-model="draft.pathStyle" label="The bucket stands in the path of addresses" />
  <v-textarea
    v-model="draft.ca"
    label="Own CA (PEM), where the system does not trust its certificate"
    rows="2"
    class="mono"
  />
</template>
