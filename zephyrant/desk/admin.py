"""The administration: analysts by Django's own pages. Cases are confidential and not shown."""

from django.contrib import admin

admin.site.site_header = "Zephyrant"
admin.site.site_title = "Zephyrant"
