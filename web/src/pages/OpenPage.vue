<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { ask, client } from '@/api/client'
import EmptyState from '@/kit/EmptyState.vue'
import PaperSheet from '@/kit/PaperSheet.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import { dayText } from '@/kit/dates'

/** The customer's page of a sealed record: whoever has its address reads it, without an account. */
const props = defineProps<{ token: string }>()
const page = useQuery({
  queryKey: ['open', props.token],
  queryFn: () => ask(client.GET('/api/open/{token}', { params: { path: { token: props.token } } })),
  retry: false,
})
</script>

<template>
  <main class="open">
    <p v-if="page.isPending.value" class="quiet">one moment</p>
    <EmptyState
      v-else-if="!page.data.value"
      title="Nothing is shown here"
      text="The address was mistyped, or the contractor has closed this page. Ask the contractor for a new one."
    />
    <template v-else>
      <header>
        <h1 :lang="page.data.value.pack.lang">{{ page.data.value.pack.title }}</h1>
        <p class="row standing" data-standing>
          <VerdictMark :verdict="page.data.value.withdrawnAt ? 'stop' : 'sound'" />
          <b v-if="page.data.value.withdrawnAt" class="withdrawn">
            Withdrawn by the contractor on {{ dayText(page.data.value.withdrawnAt.slice(0, 10)) }}:
            {{ page.data.value.reason }}
          </b>
          <span v-else>
            Sealed on {{ dayText(page.data.value.sealedAt.slice(0, 10)) }} by {{ page.data.value.sealedBy }}, unchanged
            since. Issue {{ page.data.value.issue }}, the last.
          </span>
        </p>
        <p class="quiet">
          job {{ page.data.value.number }}, code <span class="mono">{{ page.data.value.code }}</span>
        </p>
        <p class="row">
          <a class="btn main" :href="`api/open/${token}/handover`" download data-public="handover"
            >Handover pack, PDF</a
          >
          <a
            v-if="page.data.value.certified"
            class="btn"
            :href="`api/open/${token}/certificate`"
            download
            data-public="certificate"
            >{{ page.data.value.certified }}, PDF</a
          >
        </p>
      </header>
      <section v-if="page.data.value.notices.length" class="card" data-notices>
        <h2>Notices and claims as they stand</h2>
        <ul>
          <li v-for="n in page.data.value.notices" :key="n.title">
            {{ n.title }}:
            <b v-if="n.answered">answered {{ dayText(n.answered) }}</b>
            <template v-else-if="n.sent">sent {{ dayText(n.sent) }}, not answered yet</template>
            <template v-else>still to come</template>
          </li>
        </ul>
      </section>
      <PaperSheet :blocks="page.data.value.pack.blocks" :lang="page.data.value.pack.lang" />
    </template>
  </main>
</template>

<style scoped>
.open {
  max-width: 760px;
  margin: 0 auto;
  padding: 18px 16px 40px;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 14px;
}
.open .btn {
  white-space: normal;
}
header {
  display: grid;
  gap: 8px;
}
.standing {
  flex-wrap: nowrap;
  align-items: flex-start;
}
.withdrawn {
  color: var(--stop);
}
h2 {
  margin: 0 0 6px;
  font-size: 15px;
}
ul {
  margin: 0;
  padding-left: 18px;
}
</style>
