package hardproof.proving.applications;

import static hardproof.proving.applications.Fields.asMap;
import static hardproof.proving.applications.Fields.list;
import static hardproof.proving.applications.Fields.map;
import static hardproof.proving.applications.Fields.text;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * Everything an object names that must be there for it to work; what is optional, or comes with every
 * cluster, is left out. By hand, since the published description of the API tells the type of a field that
 * names something, and for claims, accounts, services and roles not of what kind that is.
 */
final class References {
  private static final Set<String> TEMPLATED = Set.of(
      "Deployment", "StatefulSet", "DaemonSet", "ReplicaSet", "Job", "ReplicationController");
  private static final Set<String> GROUPS = Set.of("", "apps", "batch");
  private static final Set<String> ROLES_OF_EVERY_CLUSTER =
      Set.of("cluster-admin", "admin", "edit", "view");

  /** Volumes that name a secret in a field of their own. */
  private static final List<String> WITH_SECRET =
      List.of("cephfs", "flexVolume", "iscsi", "rbd", "scaleIO", "storageos", "cinder");

  private final BundleObject object;
  private final ObjectKey id;
  private final List<Reference> found = new ArrayList<>();

  References(BundleObject object) {
    this.object = object;
    this.id = object.id();
  }

  List<Reference> all() {
    Map<?, ?> spec = map(object.content(), "spec");
    pods(spec);
    others(spec);
    return found;
  }

  private void pods(Map<?, ?> spec) {
    if (GROUPS.contains(id.group()) && id.kind().equals("Pod")) {
      pod(spec);
    } else if (GROUPS.contains(id.group()) && TEMPLATED.contains(id.kind())) {
      pod(map(spec, "template", "spec"));
    } else if (id.is("batch", "CronJob")) {
      pod(map(spec, "jobTemplate", "spec", "template", "spec"));
    }
  }

  private void others(Map<?, ?> spec) {
    if (id.is("apps", "StatefulSet")) {
      named("Service", text(spec, "serviceName"));
    } else if (id.is("networking.k8s.io", "Ingress")) {
      ingress(spec);
    } else if (id.is("", "ServiceAccount")) {
      pullSecrets(object.content());
    } else if (id.kind().equals("RoleBinding") || id.kind().equals("ClusterRoleBinding")) {
      binding();
    } else if (id.is("autoscaling", "HorizontalPodAutoscaler")) {
      target(map(spec, "scaleTargetRef"));
    }
  }

  private void named(String kind, String name) {
    if (name != null && !name.isEmpty()) {
      found.add(Reference.of(kind, id.namespace(), name));
    }
  }

  private void pod(Map<?, ?> spec) {
    Set<String> own = ownClaims();
    for (Object volume : list(spec, "volumes")) {
      volume(asMap(volume), own);
    }
    pullSecrets(spec);
    // Both fields are read; the second is its older name.
    account(spec);
    for (String containers : List.of("containers", "initContainers", "ephemeralContainers")) {
      for (Object container : list(spec, containers)) {
        environment(asMap(container));
      }
    }
  }

  private Set<String> ownClaims() {
    Set<String> own = new TreeSet<>();
    for (Object template : list(map(object.content(), "spec"), "volumeClaimTemplates")) {
      own.add(text(map(template, "metadata"), "name"));
    }
    return own;
  }

  private void account(Map<?, ?> spec) {
    for (String field : List.of("serviceAccountName", "serviceAccount")) {
      String account = text(spec, field);
      if (account != null && !account.equals("default") && !account.isEmpty()) {
        Reference reference = Reference.of("ServiceAccount", id.namespace(), account);
        if (!found.contains(reference)) {
          found.add(reference);
        }
      }
    }
  }

  private void volume(Map<?, ?> volume, Set<String> own) {
    withItems("Secret", map(volume, "secret"), "secretName");
    withItems("ConfigMap", map(volume, "configMap"), "name");
    String claim = text(map(volume, "persistentVolumeClaim"), "claimName");
    if (claim != null && !own.contains(claim)) {
      named("PersistentVolumeClaim", claim);
    }
    projected(volume);
    named("Secret", text(map(volume, "csi", "nodePublishSecretRef"), "name"));
    for (String kind : WITH_SECRET) {
      named("Secret", text(map(volume, kind, "secretRef"), "name"));
    }
    named("Secret", text(map(volume, "azureFile"), "secretName"));
  }

  private void projected(Map<?, ?> volume) {
    for (Object source : list(map(volume, "projected"), "sources")) {
      withItems("Secret", map(source, "secret"), "name");
      withItems("ConfigMap", map(source, "configMap"), "name");
    }
  }

  /** A secret or config map of which some keys are taken by name. */
  private void withItems(String kind, Map<?, ?> from, String field) {
    String name = text(from, field);
    if (name == null || optional(from)) {
      return;
    }
    Reference whole = Reference.of(kind, id.namespace(), name);
    found.add(whole);
    for (Object item : list(from, "items")) {
      if (text(item, "key") != null) {
        found.add(whole.key(text(item, "key")));
      }
    }
  }

  private static boolean optional(Map<?, ?> from) {
    return "true".equals(String.valueOf(from.get("optional")));
  }

  private void pullSecrets(Map<?, ?> from) {
    for (Object secret : list(from, "imagePullSecrets")) {
      named("Secret", text(secret, "name"));
    }
  }

  private void environment(Map<?, ?> container) {
    for (Object from : list(container, "envFrom")) {
      withItems("Secret", map(from, "secretRef"), "name");
      withItems("ConfigMap", map(from, "configMapRef"), "name");
    }
    for (Object variable : list(container, "env")) {
      keyed("Secret", map(variable, "valueFrom", "secretKeyRef"));
      keyed("ConfigMap", map(variable, "valueFrom", "configMapKeyRef"));
    }
  }

  private void keyed(String kind, Map<?, ?> from) {
    String name = text(from, "name");
    if (name != null && !optional(from)) {
      found.add(Reference.of(kind, id.namespace(), name).key(text(from, "key")));
    }
  }

  private void ingress(Map<?, ?> spec) {
    tls(spec);
    backend(map(spec, "defaultBackend"));
    backend(map(spec, "backend"));
    for (Object rule : list(spec, "rules")) {
      for (Object path : list(map(rule, "http"), "paths")) {
        backend(map(path, "backend"));
      }
    }
  }

  private void tls(Map<?, ?> spec) {
    for (Object tls : list(spec, "tls")) {
      String name = text(tls, "secretName");
      if (name != null && !name.isEmpty()) {
        Reference secret = Reference.of("Secret", id.namespace(), name);
        found.add(secret.key("tls.crt"));
        found.add(secret.key("tls.key"));
      }
    }
  }

  /** In the form of today, and in the one that was given up with extensions/v1beta1. */
  private void backend(Map<?, ?> backend) {
    Map<?, ?> service = map(backend, "service");
    String name = text(service, "name");
    if (name != null) {
      Map<?, ?> port = map(service, "port");
      String asked = text(port, "name") != null ? text(port, "name") : text(port, "number");
      found.add(Reference.of("Service", id.namespace(), name).port(asked));
    }
    String older = text(backend, "serviceName");
    if (older != null) {
      found.add(Reference.of("Service", id.namespace(), older).port(text(backend, "servicePort")));
    }
    target(map(backend, "resource"));
  }

  /** An object named with its group or version. */
  private void target(Map<?, ?> to) {
    String kind = text(to, "kind");
    String name = text(to, "name");
    if (kind == null || name == null) {
      return;
    }
    String version = text(to, "apiVersion");
    String group = text(to, "apiGroup");
    String where = version != null ? version : group == null ? null : group + "/";
    found.add(new Reference(ObjectKey.of(where, kind, id.namespace(), name), null, null));
  }

  private void binding() {
    Map<?, ?> role = map(object.content(), "roleRef");
    String name = text(role, "name");
    String kind = text(role, "kind");
    boolean everywhere = "ClusterRole".equals(kind)
        && name != null
        && (ROLES_OF_EVERY_CLUSTER.contains(name) || name.startsWith("system:"));
    if (name != null && kind != null && !everywhere) {
      found.add(new Reference(ObjectKey.of(null, kind, id.namespace(), name), null, null));
    }
    subjects();
  }

  private void subjects() {
    for (Object subject : list(object.content(), "subjects")) {
      String account = text(subject, "name");
      if ("ServiceAccount".equals(text(subject, "kind"))
          && account != null
          && !account.equals("default")) {
        String namespace = text(subject, "namespace");
        found.add(Reference.of(
            "ServiceAccount", namespace == null ? id.namespace() : namespace, account));
      }
    }
  }
}
