<script lang="ts">
  import { t } from '../lib/text/catalogue'
</script>

<main class="page" id="work">
  <h1>{t.notFound}</h1>
  <p><a href="/">{t.notFoundMend}</a></p>
</main>
