import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['sequelize', 'mariadb', 'piscina'],
  compiler: { styledComponents: true },
  // bin/test runs the type check itself.
  typescript: { ignoreBuildErrors: true },
  // A rig profile may have a megabyte of text, and what it is wrapped in comes on top.
  experimental: { serverActions: { bodySizeLimit: '3mb' } },
  // The front door leads to the Bench.
  redirects: async () => [{ source: '/', destination: '/bench', permanent: false }],
  poweredByHeader: false,
  // Everything comes from this machine: to compress and to expand it costs more time than it saves.
  compress: false,
  devIndicators: false,
};

export default config;
