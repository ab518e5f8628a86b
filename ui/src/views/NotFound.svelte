<script lang="ts">
  import { common } from '../lib/text/gen/common'
</script>

<main class="page" id="work">
  <h1>{common.notFound}</h1>
  <p><a href="/">{common.notFoundMend}</a></p>
</main>
