<script setup lang="ts">
import EmptyState from '@/kit/EmptyState.vue'
import TopBar from '@/kit/TopBar.vue'
</script>

<template>
  <TopBar />
  <EmptyState title="There is no page at this address">
    <router-link class="btn" to="/jobs">All jobs</router-link>
  </EmptyState>
</template>
