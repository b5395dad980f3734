using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Uncial.Data.Migrations
{
    /// <inheritdoc />
    public partial class Journey : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "data_protection_keys",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    friendly_name = table.Column<string>(type: "text", nullable: true),
                    xml = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_data_protection_keys", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "operators",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    display_name = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    user_name = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    normalized_user_name = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    email = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    normalized_email = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    email_confirmed = table.Column<bool>(type: "boolean", nullable: false),
                    password_hash = table.Column<string>(type: "text", nullable: true),
                    security_stamp = table.Column<string>(type: "text", nullable: true),
                    concurrency_stamp = table.Column<string>(type: "text", nullable: true),
                    phone_number = table.Column<string>(type: "text", nullable: true),
                    phone_number_confirmed = table.Column<bool>(type: "boolean", nullable: false),
                    two_factor_enabled = table.Column<bool>(type: "boolean", nullable: false),
                    lockout_end = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    lockout_enabled = table.Column<bool>(type: "boolean", nullable: false),
                    access_failed_count = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_operators", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "roles",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    name = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    normalized_name = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    concurrency_stamp = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_roles", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "shops",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    name = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    rules = table.Column<string>(type: "jsonb", nullable: false),
                    micrometer = table.Column<string>(type: "jsonb", nullable: false),
                    drum_gauge = table.Column<string>(type: "jsonb", nullable: false),
                    lathe = table.Column<string>(type: "jsonb", nullable: false),
                    default_technique = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    has_demo_data = table.Column<bool>(type: "boolean", nullable: false),
                    turn = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_shops", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "jobs",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    number = table.Column<int>(type: "integer", nullable: false),
                    vehicle = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    customer = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: true),
                    odometer_km = table.Column<int>(type: "integer", nullable: true),
                    promised_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    received_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    received_by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_jobs", x => x.id);
                    table.ForeignKey(
                        name: "fk_jobs_users_received_by_id",
                        column: x => x.received_by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "operator_claims",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    user_id = table.Column<int>(type: "integer", nullable: false),
                    claim_type = table.Column<string>(type: "text", nullable: true),
                    claim_value = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_operator_claims", x => x.id);
                    table.ForeignKey(
                        name: "fk_operator_claims_operators_user_id",
                        column: x => x.user_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "operator_logins",
                columns: table => new
                {
                    login_provider = table.Column<string>(type: "text", nullable: false),
                    provider_key = table.Column<string>(type: "text", nullable: false),
                    provider_display_name = table.Column<string>(type: "text", nullable: true),
                    user_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_operator_logins", x => new { x.login_provider, x.provider_key });
                    table.ForeignKey(
                        name: "fk_operator_logins_operators_user_id",
                        column: x => x.user_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "operator_tokens",
                columns: table => new
                {
                    user_id = table.Column<int>(type: "integer", nullable: false),
                    login_provider = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    value = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_operator_tokens", x => new { x.user_id, x.login_provider, x.name });
                    table.ForeignKey(
                        name: "fk_operator_tokens_operators_user_id",
                        column: x => x.user_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "operator_roles",
                columns: table => new
                {
                    user_id = table.Column<int>(type: "integer", nullable: false),
                    role_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_operator_roles", x => new { x.user_id, x.role_id });
                    table.ForeignKey(
                        name: "fk_operator_roles_operators_user_id",
                        column: x => x.user_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_operator_roles_roles_role_id",
                        column: x => x.role_id,
                        principalTable: "roles",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "role_claims",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    role_id = table.Column<int>(type: "integer", nullable: false),
                    claim_type = table.Column<string>(type: "text", nullable: true),
                    claim_value = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_role_claims", x => x.id);
                    table.ForeignKey(
                        name: "fk_role_claims_roles_role_id",
                        column: x => x.role_id,
                        principalTable: "roles",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "parts",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    job_id = table.Column<int>(type: "integer", nullable: false),
                    tag = table.Column<string>(type: "character varying(12)", maxLength: 12, nullable: false),
                    corner = table.Column<string>(type: "text", nullable: false),
                    mark = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_parts", x => x.id);
                    table.ForeignKey(
                        name: "fk_parts_jobs_job_id",
                        column: x => x.job_id,
                        principalTable: "jobs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "outcomes",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    part_id = table.Column<int>(type: "integer", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    reason = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: true),
                    do_not_machine_again = table.Column<bool>(type: "boolean", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_outcomes", x => x.id);
                    table.ForeignKey(
                        name: "fk_outcomes_parts_part_id",
                        column: x => x.part_id,
                        principalTable: "parts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_outcomes_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "surfaces",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    part_id = table.Column<int>(type: "integer", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    in_hat = table.Column<bool>(type: "boolean", nullable: false),
                    diameter_mm = table.Column<decimal>(type: "numeric", nullable: false),
                    band_mm = table.Column<decimal>(type: "numeric", nullable: false),
                    places = table.Column<int>(type: "integer", nullable: false),
                    depths_mm = table.Column<decimal[]>(type: "numeric[]", nullable: false),
                    turn = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_surfaces", x => x.id);
                    table.ForeignKey(
                        name: "fk_surfaces_parts_part_id",
                        column: x => x.part_id,
                        principalTable: "parts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "confirmations",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    surface_id = table.Column<int>(type: "integer", nullable: false),
                    cuts = table.Column<int>(type: "integer", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    worst_mm = table.Column<decimal>(type: "numeric", nullable: false),
                    discard_mm = table.Column<decimal>(type: "numeric", nullable: false),
                    machine_to_mm = table.Column<decimal>(type: "numeric", nullable: false),
                    uncertainty_mm = table.Column<decimal>(type: "numeric", nullable: false),
                    allowance_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    groove_left_mm = table.Column<decimal>(type: "numeric", nullable: false),
                    decision = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_confirmations", x => x.id);
                    table.CheckConstraint("ck_confirmations_release_is_inside_discard", "decision not in ('Release', 'LeadOnly') or (uncertainty_mm > 0 and allowance_mm is not null and case kind when 'Rotor' then worst_mm - discard_mm else discard_mm - worst_mm end >= uncertainty_mm + allowance_mm)");
                    table.ForeignKey(
                        name: "fk_confirmations_surfaces_surface_id",
                        column: x => x.surface_id,
                        principalTable: "surfaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_confirmations_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "limit_entries",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    surface_id = table.Column<int>(type: "integer", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    value_mm = table.Column<decimal>(type: "numeric", nullable: false),
                    typed = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    unit = table.Column<string>(type: "text", nullable: false),
                    source = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_limit_entries", x => x.id);
                    table.ForeignKey(
                        name: "fk_limit_entries_surfaces_surface_id",
                        column: x => x.surface_id,
                        principalTable: "surfaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_limit_entries_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "plans",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    surface_id = table.Column<int>(type: "integer", nullable: false),
                    version = table.Column<int>(type: "integer", nullable: false),
                    technique = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    document = table.Column<string>(type: "jsonb", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_plans", x => x.id);
                    table.ForeignKey(
                        name: "fk_plans_surfaces_surface_id",
                        column: x => x.surface_id,
                        principalTable: "surfaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_plans_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "readings",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    surface_id = table.Column<int>(type: "integer", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    degrees = table.Column<decimal>(type: "numeric", nullable: true),
                    station_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    value_mm = table.Column<decimal>(type: "numeric", nullable: false),
                    typed = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    unit = table.Column<string>(type: "text", nullable: false),
                    resolution_mm = table.Column<decimal>(type: "numeric", nullable: false),
                    uncertainty_mm = table.Column<decimal>(type: "numeric", nullable: false),
                    insisted = table.Column<bool>(type: "boolean", nullable: false),
                    cuts = table.Column<int>(type: "integer", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_readings", x => x.id);
                    table.ForeignKey(
                        name: "fk_readings_surfaces_surface_id",
                        column: x => x.surface_id,
                        principalTable: "surfaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_readings_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "passes",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    surface_id = table.Column<int>(type: "integer", nullable: false),
                    plan_id = table.Column<long>(type: "bigint", nullable: false),
                    index = table.Column<int>(type: "integer", nullable: false),
                    cut = table.Column<int>(type: "integer", nullable: false),
                    dark_outer = table.Column<int>(type: "integer", nullable: false),
                    dark_inner = table.Column<int>(type: "integer", nullable: false),
                    groove_outer_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    groove_inner_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    size_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    next = table.Column<string>(type: "text", nullable: false),
                    notes = table.Column<string>(type: "jsonb", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_passes", x => x.id);
                    table.ForeignKey(
                        name: "fk_passes_plans_plan_id",
                        column: x => x.plan_id,
                        principalTable: "plans",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_passes_surfaces_surface_id",
                        column: x => x.surface_id,
                        principalTable: "surfaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_passes_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "withdrawals",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    reading_id = table.Column<long>(type: "bigint", nullable: false),
                    reason = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_withdrawals", x => x.id);
                    table.ForeignKey(
                        name: "fk_withdrawals_readings_reading_id",
                        column: x => x.reading_id,
                        principalTable: "readings",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_withdrawals_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_confirmations_by_id",
                table: "confirmations",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_confirmations_surface_id",
                table: "confirmations",
                column: "surface_id");

            migrationBuilder.CreateIndex(
                name: "ix_jobs_number",
                table: "jobs",
                column: "number",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_jobs_received_by_id",
                table: "jobs",
                column: "received_by_id");

            migrationBuilder.CreateIndex(
                name: "ix_limit_entries_by_id",
                table: "limit_entries",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_limit_entries_surface_id",
                table: "limit_entries",
                column: "surface_id");

            migrationBuilder.CreateIndex(
                name: "ix_operator_claims_user_id",
                table: "operator_claims",
                column: "user_id");

            migrationBuilder.CreateIndex(
                name: "ix_operator_logins_user_id",
                table: "operator_logins",
                column: "user_id");

            migrationBuilder.CreateIndex(
                name: "ix_operator_roles_role_id",
                table: "operator_roles",
                column: "role_id");

            migrationBuilder.CreateIndex(
                name: "EmailIndex",
                table: "operators",
                column: "normalized_email");

            migrationBuilder.CreateIndex(
                name: "UserNameIndex",
                table: "operators",
                column: "normalized_user_name",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_outcomes_at",
                table: "outcomes",
                column: "at");

            migrationBuilder.CreateIndex(
                name: "ix_outcomes_by_id",
                table: "outcomes",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_outcomes_part_id",
                table: "outcomes",
                column: "part_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_parts_job_id",
                table: "parts",
                column: "job_id");

            migrationBuilder.CreateIndex(
                name: "ix_parts_tag",
                table: "parts",
                column: "tag",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_passes_by_id",
                table: "passes",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_passes_plan_id_index",
                table: "passes",
                columns: new[] { "plan_id", "index" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_passes_surface_id_cut",
                table: "passes",
                columns: new[] { "surface_id", "cut" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_plans_by_id",
                table: "plans",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_plans_surface_id_version",
                table: "plans",
                columns: new[] { "surface_id", "version" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_readings_by_id",
                table: "readings",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_readings_surface_id",
                table: "readings",
                column: "surface_id");

            migrationBuilder.CreateIndex(
                name: "ix_role_claims_role_id",
                table: "role_claims",
                column: "role_id");

            migrationBuilder.CreateIndex(
                name: "RoleNameIndex",
                table: "roles",
                column: "normalized_name",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_surfaces_part_id",
                table: "surfaces",
                column: "part_id");

            migrationBuilder.CreateIndex(
                name: "ix_withdrawals_by_id",
                table: "withdrawals",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_withdrawals_reading_id",
                table: "withdrawals",
                column: "reading_id",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "confirmations");

            migrationBuilder.DropTable(
                name: "data_protection_keys");

            migrationBuilder.DropTable(
                name: "limit_entries");

            migrationBuilder.DropTable(
                name: "operator_claims");

            migrationBuilder.DropTable(
                name: "operator_logins");

            migrationBuilder.DropTable(
                name: "operator_roles");

            migrationBuilder.DropTable(
                name: "operator_tokens");

            migrationBuilder.DropTable(
                name: "outcomes");

            migrationBuilder.DropTable(
                name: "passes");

            migrationBuilder.DropTable(
                name: "role_claims");

            migrationBuilder.DropTable(
                name: "shops");

            migrationBuilder.DropTable(
                name: "withdrawals");

            migrationBuilder.DropTable(
                name: "plans");

            migrationBuilder.DropTable(
                name: "roles");

            migrationBuilder.DropTable(
                name: "readings");

            migrationBuilder.DropTable(
                name: "surfaces");

            migrationBuilder.DropTable(
                name: "parts");

            migrationBuilder.DropTable(
                name: "jobs");

            migrationBuilder.DropTable(
                name: "operators");
        }
    }
}
