<script setup lang="ts">
import { ref } from 'vue'
import Moment from '@/frame/Moment.vue'
import { answerOf, api } from '@/api/client'
import type { PasswordLink, PersonView, Role } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'
import { count, relative } from '@/wording/format'
import TakeAway from '@/frame/TakeAway.vue'
import NewPersonForm from './NewPersonForm.vue'
import { roles } from './roles'
import { useSession } from './session'

/** Everybody who can sign in, and who could; for administrators. */
const session = useSession()
const { attempt, busy, problem: failure } = useAttempt()
const { data: people, problem, refresh } = useServerData('/api/people')
const adding = ref(false)
/** Shown once: nobody can see it again. */
const link = ref<PasswordLink>()
const asked = ref<{ name: string; what: 'end' | 'reset' }>()

const address = (l: PasswordLink) => `${location.origin}${l.path}`
const params = (name: string) => ({ path: { name } })
const self = (p: PersonView) => p.name.toLowerCase() === session.person?.name.toLowerCase()

async function changeRole(p: PersonView, role: Role) {
  await attempt(async () => {
    await answerOf(api.PUT('/api/people/{name}/role', { params: params(p.name), body: { role } }))
    if (self(p)) await session.load()
  })
  await refresh()
}

async function carryOut() {
  const order = asked.value
  if (!order) return
  asked.value = undefined
  await attempt(async () => {
    if (order.what === 'end') {
      await answerOf(api.POST('/api/people/{name}/end', { params: params(order.name) }))
    } else {
      link.value = await answerOf(
        api.POST('/api/people/{name}/reset', { params: params(order.name) }),
      )
    }
  })
  await refresh()
}

function added(l: PasswordLink) {
  adding.value = false
  link.value = l
  void refresh()
}

function copy() {
  if (link.value) void navigator.clipboard?.writeText(address(link.value))
}
</script>

<template>
  <div class="page">
    <div class="row-between">
      <h1 class="lead">
        People<span v-if="people" class="quiet">
          · {{ count(people.filter((p) => !p.ended).length, 'can sign in', 'can sign in') }}</span
        >
      </h1>
      <v-btn color="primary" variant="flat" @click="adding = true">Add somebody</v-btn>
    </div>
    <p class="small quiet">
      Nobody sets another’s password: whoever is added or reset sets it by a link that works once.
      Who has ended stays known by name, with all that was done under it.
    </p>
    <p v-if="failure || problem" class="bad" role="alert">{{ failure || problem }}</p>

    <section v-if="link" class="link" role="status">
      <p>
        <b>{{ link.name }}</b> sets a password at this address, once, until
        <Moment :at="link.until" />. It is shown this once; send it by a way you trust.
      </p>
      <p class="mono breakable">{{ address(link) }}</p>
      <v-btn @click="copy">Copy</v-btn>
      <v-btn class="ml-1" @click="link = undefined">Done</v-btn>
    </section>

    <v-skeleton-loader v-if="!people && !problem" type="paragraph" color="background" />
    <div v-else-if="people" class="wide">
      <table class="plain">
        <thead>
          <tr>
            <th>Name</th>
            <th>Signs in as</th>
            <th>Role</th>
            <th>State</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in people" :key="p.name" :class="{ past: p.ended }">
            <td>{{ p.fullName }}</td>
            <td class="mono">{{ p.name }}</td>
            <td>
              <span v-if="p.ended">{{ p.role }}</span>
              <select
                v-else
                class="role"
                :value="p.role"
                :aria-label="`Role of ${p.fullName}`"
                :disabled="busy"
                @change="changeRole(p, ($event.target as HTMLSelectElement).value as Role)"
              >
                <option v-for="r in roles" :key="r.code" :value="r.code">{{ r.code }}</option>
              </select>
            </td>
            <td>
              <template v-if="p.ended">ended {{ relative(p.ended) }}</template>
              <template v-else-if="p.waits">has set no password yet</template>
              <template v-else>can sign in{{ self(p) ? ' (you)' : '' }}</template>
            </td>
            <td class="nowrap acts">
              <template v-if="!p.ended && asked?.name === p.name">
                <span class="small">{{
                  asked.what === 'end'
                    ? 'They are signed out at once and come in no more.'
                    : 'Their password works no more; a new link is made.'
                }}</span>
                <v-btn class="ml-2" color="primary" variant="flat" @click="carryOut">{{
                  asked.what === 'end' ? 'End' : 'Reset'
                }}</v-btn>
                <v-btn class="ml-1" @click="asked = undefined">Keep</v-btn>
              </template>
              <template v-else-if="!p.ended">
                <button class="link-button" @click="asked = { name: p.name, what: 'reset' }">
                  reset password
                </button>
                <button class="link-button" @click="asked = { name: p.name, what: 'end' }">
                  end
                </button>
              </template>
            </td>
          </tr>
        </tbody>
      </table>
      <TakeAway name="people" :rows="() => people ?? []" />
    </div>

    <h2>What each role may do</h2>
    <dl class="roles">
      <template v-for="r in roles" :key="r.code">
        <dt>{{ r.code }}</dt>
        <dd>{{ r.may }}</dd>
      </template>
    </dl>
    <NewPersonForm v-if="adding" @close="adding = false" @added="added" />
  </div>
</template>

<style scoped>
.lead {
  font-weight: 400;
}
h2 {
  margin: 22px 0 6px;
}
.link {
  border-left: 3px solid var(--accent);
  padding: 6px 14px 10px;
  margin: 10px 0 14px;
}
.link p {
  margin: 0 0 6px;
}
.past td {
  color: var(--quiet);
}
.role {
  font: inherit;
  color: inherit;
  background: transparent;
  border: 1px solid var(--rule-strong);
  padding: 2px 6px;
}
.acts {
  text-align: right;
}
.link-button {
  font: inherit;
  color: var(--accent);
  background: none;
  border: 0;
  cursor: pointer;
  text-decoration: underline;
  margin-left: 12px;
}
.roles {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 4px 16px;
  margin: 0;
}
.roles dt {
  font-weight: 600;
}
.roles dd {
  margin: 0;
}
.bad {
  color: var(--disproven);
}
</style>
