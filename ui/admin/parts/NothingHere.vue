<template>
  <main class="p-6">
    <h1 class="mb-2 text-[24px]">{{ $t('parts.thereNothingAddress') }}</h1>
    <p>
      <RouterLink class="link" to="/">{{ $t('parts.goDesk') }}</RouterLink>
    </p>
  </main>
</template>
