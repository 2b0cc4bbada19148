import { Module } from '@nestjs/common';
import { AdministrationController } from './administration.controller.js';
import { Administration } from './administration.service.js';

@Module({ controllers: [AdministrationController], providers: [Administration] })
export class AdministrationModule {}
