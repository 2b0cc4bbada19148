import { Injectable, type OnModuleInit } from '@nestjs/common';
import { DiscoveryService, MetadataScanner, Reflector } from '@nestjs/core';
import { DECLARATION } from './access.js';

/** Stops the start when a route does not declare who may call it. */
@Injectable()
export class Declarations implements OnModuleInit {
  constructor(
    private readonly discovery: DiscoveryService,
    private readonly scanner: MetadataScanner,
    private readonly reflector: Reflector,
  ) {}

  onModuleInit(): void {
    const undeclared = this.discovery.getControllers().flatMap(({ metatype }) => {
      if (typeof metatype !== 'function') return [];
      const prototype = metatype.prototype as Record<string, unknown>;
      return this.scanner
        .getAllMethodNames(prototype)
        .filter((name) => {
          const handler = prototype[name];
          return (
            typeof handler === 'function' &&
            Reflect.hasMetadata('path', handler) &&
            this.reflector.get<unknown>(DECLARATION, handler) === undefined
          );
        })
        .map((name) => `${metatype.name}.${name}`);
    });
    if (undeclared.length > 0) {
      throw new Error(`No one may call ${undeclared.join(', ')}: say who, with @Route.`);
    }
  }
}
