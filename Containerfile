# Rubricant as an image of two stages: one that builds, one that runs, as a user of its own.
FROM node:20-bookworm-slim AS build
WORKDIR /srv/rubricant
COPY package.json package-lock.json ./
RUN npm ci
COPY . .
RUN npm run build && npm prune --omit=dev

FROM node:20-bookworm-slim
ENV NODE_ENV=production PORT=4600 RUBRICANT_LISTEN=0.0.0.0
WORKDIR /srv/rubricant
COPY --from=build /srv/rubricant /srv/rubricant
USER node
EXPOSE 4600
HEALTHCHECK CMD ["node", "-e", "fetch('http://127.0.0.1:'+process.env.PORT+'/health/live').then(r=>process.exit(r.ok?0:1),()=>process.exit(1))"]
CMD ["node", "bin/server.mjs"]
