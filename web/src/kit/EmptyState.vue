<script setup lang="ts">
/** What a page shows where there is nothing yet, or where something went wrong: what, and what to do. */
defineProps<{ title: string; text?: string }>()
</script>

<template>
  <div class="empty" role="status">
    <svg width="56" height="56" viewBox="0 0 40 40" aria-hidden="true">
      <path d="M11 5h18l9 15-9 15H11L2 20z" fill="none" stroke-width="1.6" stroke-dasharray="4 3" />
    </svg>
    <p class="title">{{ title }}</p>
    <p v-if="text" class="quiet">{{ text }}</p>
    <slot />
  </div>
</template>

<style scoped>
.empty {
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 8px;
  padding: 48px 20px;
  text-align: center;
  max-width: 46ch;
  margin: 0 auto;
}
.title {
  font-weight: 600;
  font-size: 16px;
}
path {
  stroke: var(--open);
}
</style>
