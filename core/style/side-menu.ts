/** Rules for a menu down the side, where there is room for one. */
export const sideMenu = `
@media (min-width: 50rem) {
  body {
    display: grid;
    grid-template: auto 1fr auto / 15rem minmax(0, 1fr);
    min-height: 100vh;
  }

  .site-header {
    grid-row: 1 / 4;
    flex-direction: column;
    align-items: flex-start;
    flex-wrap: nowrap;
    border-inline-end: 1px solid var(--line);
    border-bottom: 0;
  }

  main,
  .site-footer {
    grid-column: 2;
  }

  main {
    grid-row: 1 / 3;
  }

  .site-header .site-menu ul {
    flex-direction: column;
  }
}
`
