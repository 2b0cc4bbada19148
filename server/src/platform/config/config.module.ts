import { Global, Module } from '@nestjs/common';
import { readConfig, type Config } from './config.js';

export const CONFIG = Symbol('configuration');

@Global()
@Module({
  providers: [{ provide: CONFIG, useFactory: (): Config => readConfig() }],
  exports: [CONFIG],
})
export class ConfigModule {}
