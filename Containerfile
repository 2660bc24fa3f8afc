# Calm Loop without a database of its own: see compose.yaml for one beside it.
FROM docker.io/library/node:20-bookworm-slim AS build
WORKDIR /app
COPY . .
RUN npm ci --no-audit --no-fund && npm run build && npm prune --omit=dev --no-audit --no-fund

FROM docker.io/library/node:20-bookworm-slim
ENV NODE_ENV=production CALM_LISTEN=0.0.0.0 CALM_DATA_DIR=/data CALM_BACKUP_DIR=/data/backups PORT=4180
WORKDIR /app
COPY --from=build --chown=node:node /app /app
RUN mkdir /data && chown node:node /data
USER node
VOLUME /data
EXPOSE 4180
# Makes the database ready (after a backup where it is of an older shape), then serves as the application's role.
CMD ["node", "scripts/serve-here.mjs"]
