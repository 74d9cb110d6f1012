<script setup lang="ts">
import Moment from '@/frame/Moment.vue'
import { answerOf, api } from '@/api/client'
import type { Decision, ExceptionView } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useEvents } from '@/api/useEvents'
import { useServerData } from '@/api/useServerData'
import { useAsAt } from '@/frame/useAsAt'
import { useSession } from '@/people/session'
import { relative, words } from '@/wording/format'
import TakeAway from '@/frame/TakeAway.vue'

/** Accepted deviations: proposed by one person, decided by another, with an end. */
const { when, lookingBack } = useAsAt()
const session = useSession()
const { data, problem, refresh } = useServerData('/api/exceptions', () => ({
  params: { query: when.value },
}))
useEvents({ facts: () => void refresh() })
const { attempt, problem: said } = useAttempt()

const params = (e: ExceptionView) => ({
  path: { key: e.key },
  header: { 'If-Match': `"${Date.parse(e.edited)}"` },
})

async function act(work: () => Promise<unknown>) {
  await attempt(work)
  // What has changed meanwhile is shown, to be decided about as it is now.
  await refresh()
}

const decide = (e: ExceptionView, body: Decision) =>
  act(() => answerOf(api.POST('/api/exceptions/{key}/decision', { params: params(e), body })))
const end = (e: ExceptionView) =>
  act(() => answerOf(api.POST('/api/exceptions/{key}/end', { params: params(e) })))

const approver = () => session.person?.role === 'approver' && !lookingBack.value
const mayDecide = (e: ExceptionView) => approver() && !e.objection
const mine = (e: ExceptionView) =>
  e.proposedBy?.toLowerCase() === session.person?.name.toLowerCase()
const mayEnd = (e: ExceptionView) =>
  e.feed === 'written here' &&
  !lookingBack.value &&
  (e.state === 'proposed' ? mine(e) : e.state === 'in-force' && mayDecide(e))
</script>

<template>
  <p class="small quiet">
    An exception accepts a finding for a time, or leaves test resources out; the arithmetic stays.
    It is proposed from Findings, and another person decides here.
  </p>
  <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
  <p v-if="said" class="wrong" role="alert">{{ said }}</p>
  <p v-if="data && !data.length">None is known.</p>
  <table v-if="data?.length" class="plain">
    <thead>
      <tr>
        <th>State</th>
        <th>What is accepted</th>
        <th>For</th>
        <th>Why</th>
        <th>Proposed, decided</th>
        <th>Until</th>
        <th></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="e in data" :key="e.key" :class="{ past: ['ended', 'refused'].includes(e.state) }">
        <td>
          <b>{{ words(e.state) }}</b>
        </td>
        <td>{{ e.title ?? 'left out of judgement' }}</td>
        <td>
          {{ e.scope }}<br /><span class="small" :class="e.wide ? 'wide' : 'quiet'"
            >covers {{ e.covers }}</span
          >
        </td>
        <td>{{ e.reason }}</td>
        <td>
          {{ e.proposedBy ?? 'not known'
          }}<template v-if="e.approvedBy">, approved by {{ e.approvedBy }}</template
          ><template v-if="e.refusedBy">, refused by {{ e.refusedBy }}</template
          ><span v-if="e.claimedApprover" class="small quiet"
            ><br />feed {{ e.feed }} says {{ e.claimedApprover }} approved it, which counts for
            nothing here</span
          >
        </td>
        <td class="nowrap">
          <template v-if="e.until"
            ><span class="mono"><Moment :at="e.until" /></span><br /><span class="small quiet">{{
              relative(e.until)
            }}</span></template
          ><template v-else>no end</template>
        </td>
        <td class="nowrap">
          <template v-if="e.state === 'proposed' && mayDecide(e)">
            <v-btn
              color="primary"
              variant="flat"
              @click="decide(e, { approve: true, resources: e.resources })"
              >Approve</v-btn
            >
            <v-btn class="ml-1" @click="decide(e, { approve: false })">Refuse</v-btn>
          </template>
          <span v-else-if="e.state === 'proposed' && approver()" class="small quiet">{{
            e.objection
          }}</span>
          <button v-else-if="mayEnd(e)" class="link" @click="end(e)">
            {{ e.state === 'proposed' ? 'take back' : 'end now' }}
          </button>
        </td>
      </tr>
    </tbody>
  </table>
  <TakeAway v-if="data?.length" name="exceptions" :rows="() => data ?? []" />
</template>

<style scoped>
.past td {
  color: var(--quiet);
}
.wide {
  font-weight: 600;
}
.wrong {
  color: var(--disproven);
}
</style>
